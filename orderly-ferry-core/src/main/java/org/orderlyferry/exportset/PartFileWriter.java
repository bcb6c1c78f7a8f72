package org.orderlyferry.exportset;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.function.Predicate;
import org.orderlyferry.format.GrownFile;
import org.orderlyferry.format.TablesWriter;
import org.orderlyferry.io.Compression;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.place.PartFile;
import org.orderlyferry.place.PartWriter;
import org.orderlyferry.place.TablePart;
import org.orderlyferry.problem.PlaceException;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordWriter;

/** Writes one part's file, and those that grow beside it, with their checksums taken in passing. */
final class PartFileWriter implements PartWriter {

    private final SetAssembly assembly;
    private final Path base;
    private final String path;
    private final Predicate<List<PartFile>> keeping;
    private final BagFile file;
    private final TablesWriter whole;
    private final RecordWriter writer;
    private final List<PartFile> files = new ArrayList<>();
    private boolean kept;

    /**
     * A writer.
     *
     * @param base the folder in which the part's path begins
     * @param keeping takes the files that are finished; false if nobody wants them any more
     */
    PartFileWriter(SetAssembly assembly, Path base, TablePart part, Predicate<List<PartFile>> keeping) {
        this.assembly = assembly;
        this.base = base;
        this.path = assembly.path(part);
        this.keeping = keeping;
        TableDefinition table = assembly.table(part.table());
        try {
            // of an attempt that was killed
            Files.deleteIfExists(at(path));
            this.file = new BagFile(at(path));
            this.whole = assembly.format()
                    .write(assembly.compression().compress(file), path, List.of(table), assembly.settings());
            this.writer = whole.writer(table);
        } catch (IOException e) {
            throw assembly.failed(e);
        }
    }

    private Path at(String file) {
        return base.resolve(file);
    }

    @Override
    public void write(RecordBatch batch) {
        try {
            writer.write(batch);
        } catch (PlaceException e) {
            throw e.getCause() instanceof IOException io ? assembly.failed(io) : e;
        }
    }

    @Override
    public void finish() {
        try {
            writer.finish();
            writer.close();
            whole.finish();
            List<PartFile> grown = grown();
            whole.close();
            files.add(new PartFile(path, file.bytes(), file.sha256()));
            files.addAll(grown);
        } catch (PlaceException e) {
            throw e.getCause() instanceof IOException io ? assembly.failed(io) : e;
        }
        kept = keeping.test(List.copyOf(files));
    }

    /** Takes files along that grew beside this one. */
    private List<PartFile> grown() {
        List<PartFile> all = new ArrayList<>();
        try {
            for (GrownFile other : whole.grownFiles()) {
                String bare = path.substring(
                        0, path.length() - Compression.ofName(path).ending().length());
                // a table's name may have points of its own
                String beside = bare.substring(0, bare.lastIndexOf('.') + 1) + other.ending();
                Files.deleteIfExists(at(beside));
                BagFile copy = new BagFile(at(beside));
                try (copy) {
                    Files.copy(other.content(), copy);
                }
                all.add(new PartFile(beside, copy.bytes(), copy.sha256()));
            }
        } catch (IOException e) {
            throw assembly.failed(e);
        }
        return all;
    }

    @Override
    public List<PartFile> files() {
        return List.copyOf(files);
    }

    @Override
    public void close() {
        try {
            whole.close();
        } finally {
            if (!kept) {
                remove();
            }
        }
    }

    private void remove() {
        try {
            Files.deleteIfExists(at(path));
            for (PartFile other : files) {
                Files.deleteIfExists(at(other.path()));
            }
        } catch (IOException e) {
            throw assembly.failed(e);
        }
    }
}
