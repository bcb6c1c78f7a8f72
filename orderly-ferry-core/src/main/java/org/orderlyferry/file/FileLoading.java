package org.orderlyferry.file;

import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.Supplier;
import org.orderlyferry.format.FileFormat;
import org.orderlyferry.format.FileSettings;
import org.orderlyferry.format.GrownFile;
import org.orderlyferry.format.SideFile;
import org.orderlyferry.format.TablesWriter;
import org.orderlyferry.io.Compression;
import org.orderlyferry.io.NewFile;
import org.orderlyferry.model.Finding;
import org.orderlyferry.model.LeftBehind;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.Loading;
import org.orderlyferry.place.Merged;
import org.orderlyferry.place.TablePart;
import org.orderlyferry.place.Written;
import org.orderlyferry.problem.PlaceException;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordWriter;
import org.orderlyferry.record.Screen;

/** Tables on their way into a file, one after the other. */
final class FileLoading implements Loading {

    private final NewFile file;
    private final FileFormat format;
    private final FileSettings settings;
    private final List<TableDefinition> tables;
    private final TablesWriter writer;
    private TableDefinition current;
    private RecordWriter records;
    private boolean broken;
    private boolean done;

    FileLoading(
            NewFile file,
            FileFormat format,
            Compression compression,
            FileSettings settings,
            List<TableDefinition> tables) {
        this.file = file;
        this.format = format;
        this.settings = settings;
        this.tables = tables;
        try {
            this.writer = format.write(compression.compress(file), file.place().toString(), tables, settings);
        } catch (IOException e) {
            discard();
            throw failed(e);
        } catch (RuntimeException e) {
            discard();
            throw e;
        }
    }

    /** One at a time; several slices of a table follow each other. */
    @Override
    public RecordWriter writer(TablePart part, Supplier<String> receipt) {
        TableName name = part.table();
        if (broken) {
            throw new PlaceException(
                    file.place().toString(),
                    "part of table " + current.name() + " is missing, and can't be added",
                    null);
        }
        if (current == null || !current.name().equals(name)) {
            endTable();
            current = tables.stream()
                    .filter(t -> t.name().equals(name))
                    .findFirst()
                    .orElseThrow(() -> new IllegalArgumentException("no table " + name));
            records = writer.writer(current);
        }
        broken = true;
        return new RecordWriter() {
            @Override
            public void write(RecordBatch batch) {
                records.write(batch);
            }

            @Override
            public void finish() {
                // the next slice may be of the same table
                broken = false;
            }

            @Override
            public void close() {
                // without having been finished, the file is broken, since a part of a slice is in it
            }
        };
    }

    @Override
    public Optional<Screen> screen(TablePart part) {
        return tables.stream()
                .filter(t -> t.name().equals(part.table()))
                .findFirst()
                .flatMap(file.isReal() ? writer::writingScreen : writer::screen);
    }

    private void endTable() {
        if (records != null) {
            records.finish();
            records.close();
            records = null;
        }
    }

    @Override
    public void finish(Written written) {
        endTable();
        writer.finish();
        try {
            if (file.isReal()) {
                for (GrownFile grown : writer.grownFiles()) {
                    NewFile.copy(grown.content(), file.place().resolveSibling(baseName() + "." + grown.ending()));
                }
            }
        } catch (IOException e) {
            throw failed(e);
        }
        writer.close();
        if (!file.isReal()) {
            return;
        }
        try {
            for (SideFile side : sideFiles()) {
                NewFile.whole(file.place().resolveSibling(side.name()), side.content());
            }
            file.takePlace();
        } catch (IOException e) {
            throw failed(e);
        }
        done = true;
    }

    private List<SideFile> sideFiles() {
        String name = file.place().getFileName().toString();
        List<SideFile> files = new ArrayList<>();
        // what has gone through somebody's style sheet is whatever that has made of it
        if (format.isDescribedBeside() && !settings.namesFiles()) {
            files.add(new SideFile(
                    name + "-metadata.json",
                    new DescriptionWriter(format, settings, t -> format.styles(t, settings)).write(name, tables)));
        }
        files.addAll(format.sideFiles(baseName(), tables, settings));
        return files;
    }

    /** The file's name without its endings, that of a compression and that of its format. */
    private String baseName() {
        String name = file.place().getFileName().toString();
        String bare = name.substring(
                0, name.length() - Compression.ofName(name).ending().length());
        int point = bare.lastIndexOf('.');
        return point <= 0 ? bare : bare.substring(0, point);
    }

    @Override
    public Optional<Merged> merged(TableName table) {
        return Optional.empty();
    }

    @Override
    public List<Finding> findings() {
        return writer.findings();
    }

    @Override
    public List<LeftBehind> leftBehind() {
        return writer.leftBehind();
    }

    @Override
    public void close() {
        if (!done) {
            try {
                writer.close();
            } finally {
                discard();
            }
        }
    }

    private void discard() {
        try {
            file.discard();
        } catch (IOException e) {
            throw failed(e);
        }
    }

    private PlaceException failed(IOException e) {
        return new PlaceException(
                file.place().toString(), "can't be written: " + e.getMessage() + "; nothing was left there", e);
    }
}
