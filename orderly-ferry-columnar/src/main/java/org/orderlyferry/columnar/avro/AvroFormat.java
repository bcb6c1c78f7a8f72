package org.orderlyferry.columnar.avro;

import java.io.OutputStream;
import java.util.List;
import org.apache.avro.file.CodecFactory;
import org.orderlyferry.format.ColumnMatch;
import org.orderlyferry.format.FileFormat;
import org.orderlyferry.format.FilePiece;
import org.orderlyferry.format.FileSettings;
import org.orderlyferry.format.FileSource;
import org.orderlyferry.format.Keeps;
import org.orderlyferry.format.Outline;
import org.orderlyferry.format.Setting;
import org.orderlyferry.format.TablesWriter;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.problem.Origin;
import org.orderlyferry.problem.UsageException;
import org.orderlyferry.record.RecordReader;
import org.orderlyferry.record.Rejects;

/** Avro's object container files. */
public final class AvroFormat implements FileFormat {

    private static final String CODEC = "blocks";
    private static final int ZSTD_LEVEL = 3;

    @Override
    public String name() {
        return "Avro";
    }

    @Override
    public List<String> endings() {
        return List.of("avro");
    }

    @Override
    public boolean looksLike(byte[] head) {
        return head.length >= 4 && head[0] == 'O' && head[1] == 'b' && head[2] == 'j' && head[3] == 1;
    }

    @Override
    public Keeps keeps() {
        return new Keeps(
                "types in the file's schema, all else as a CSVW schema among what the file says of itself, and a CSVW"
                        + " description beside it",
                "null is null, and empty text is one with no characters",
                "numbers, decimals of any size, truth values, days, times and moments (six digits behind the second; moments nine"
                        + " where the type has more), UUIDs and bytes as such; all else as text",
                List.of(
                        "a moment with nine digits outside of the years 1677 to 2262 is refused",
                        "a moment with a zone is the same moment in UTC",
                        "names have letters and digits of ASCII; others are changed, and told",
                        "records, arrays, maps and values of several types in other programs' files are read as JSON"));
    }

    @Override
    public List<Setting> settings() {
        return List.of(new Setting(
                CODEC, "zstandard", "How blocks are compressed when written: zstandard, deflate, snappy or none."));
    }

    @Override
    public void check(FileSettings settings) {
        FileFormat.super.check(settings);
        codec(settings);
    }

    private static CodecFactory codec(FileSettings settings) {
        String told = settings.text(CODEC, "zstandard");
        return switch (told) {
            case "zstandard" -> CodecFactory.zstandardCodec(ZSTD_LEVEL);
            case "deflate" -> CodecFactory.deflateCodec(CodecFactory.DEFAULT_DEFLATE_LEVEL);
            case "snappy" -> CodecFactory.snappyCodec();
            case "none" -> CodecFactory.nullCodec();
            default ->
                throw new UsageException(
                        "the setting " + CODEC + " is zstandard, deflate, snappy or none, not " + told);
        };
    }

    @Override
    public List<Outline> outline(FileSource file, FileSettings settings) {
        try (AvroInput input = new AvroInput(file)) {
            return List.of(new Outline(input.read(() -> input.table(file.baseName())), Outline.Source.DEFINITIONS));
        }
    }

    @Override
    public List<FilePiece> cut(FileSource file, FileSettings settings, long bytes) {
        if (file.onDisk().isEmpty()) {
            return List.of(FilePiece.ALL);
        }
        try (AvroInput input = new AvroInput(file)) {
            return input.read(() -> input.pieces(bytes));
        }
    }

    @Override
    public RecordReader read(
            FileSource file, TableDefinition table, List<String> columns, FileSettings settings, Rejects rejects) {
        return readPiece(file, FilePiece.ALL, table, columns, settings, rejects);
    }

    @Override
    public RecordReader readPiece(
            FileSource file,
            FilePiece piece,
            TableDefinition table,
            List<String> columns,
            FileSettings settings,
            Rejects rejects) {
        AvroInput input = new AvroInput(file);
        try {
            return input.read(() -> {
                List<String> names = input.table(file.baseName()).columnNames();
                ColumnMatch.check(
                        names, table.columnNames(), new Origin(table.name().toString(), file.shown(), 0, true));
                return new BlocksReader(input, file.shown(), table.withColumns(columns), names, piece, rejects);
            });
        } catch (RuntimeException e) {
            input.close();
            throw e;
        }
    }

    @Override
    public TablesWriter write(OutputStream out, String shown, List<TableDefinition> tables, FileSettings settings) {
        if (tables.size() != 1) {
            throw new UsageException("an Avro file holds one table, and these are " + tables.size()
                    + "; name one of them, or give a folder instead of " + shown);
        }
        return new AvroTableWriter(out, shown, tables.get(0), codec(settings));
    }
}
