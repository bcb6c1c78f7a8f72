package org.orderlyferry.columnar.parquet;

import java.io.OutputStream;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.apache.parquet.hadoop.metadata.CompressionCodecName;
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

/** Parquet files. */
public final class ParquetFormat implements FileFormat {

    private static final Map<String, CompressionCodecName> CODECS = Map.of(
            "zstd", CompressionCodecName.ZSTD,
            "gzip", CompressionCodecName.GZIP,
            "snappy", CompressionCodecName.SNAPPY,
            "none", CompressionCodecName.UNCOMPRESSED);

    private static final String CODEC = "pages";

    @Override
    public String name() {
        return "Parquet";
    }

    @Override
    public List<String> endings() {
        return List.of("parquet");
    }

    @Override
    public boolean looksLike(byte[] head) {
        return head.length >= 4 && head[0] == 'P' && head[1] == 'A' && head[2] == 'R' && head[3] == '1';
    }

    @Override
    public Keeps keeps() {
        return new Keeps(
                "types in the file's schema, all else as a CSVW schema among what the file says of itself, and a CSVW"
                        + " description beside it",
                "null is null, and empty text is one with no characters",
                "numbers, decimals of up to 38 digits, truth values, days, times and moments (six digits behind the second, nine"
                        + " where the type has more), UUIDs and bytes as such; JSON as JSON; all else as text",
                List.of(
                        "a moment with nine digits outside of the years 1677 to 2262 is refused",
                        "a moment with a zone is the same moment in UTC",
                        "groups, lists and maps of other programs' files are read as JSON",
                        "pages by LZO, Brotli and the older LZ4, and encrypted files, aren't read"));
    }

    @Override
    public List<Setting> settings() {
        return List.of(
                new Setting(CODEC, "zstd", "How pages are compressed when written: zstd, gzip, snappy or none."));
    }

    @Override
    public void check(FileSettings settings) {
        FileFormat.super.check(settings);
        codec(settings);
    }

    private static CompressionCodecName codec(FileSettings settings) {
        String told = settings.text(CODEC, "zstd");
        CompressionCodecName codec = CODECS.get(told);
        if (codec == null) {
            throw new UsageException("the setting " + CODEC + " is zstd, gzip, snappy or none, not " + told);
        }
        return codec;
    }

    @Override
    public List<Outline> outline(FileSource file, FileSettings settings) {
        try (ParquetInput input = new ParquetInput(file, FilePiece.ALL)) {
            String name = file.baseName();
            TableDefinition table = input.read(() -> {
                Optional<TableDefinition> defined = input.defined(name);
                return defined.isPresent() ? defined.get() : input.plain(name);
            });
            return List.of(
                    new Outline(table, Outline.Source.DEFINITIONS, input.read(() -> input.findings(table.name()))));
        }
    }

    @Override
    public List<FilePiece> cut(FileSource file, FileSettings settings, long bytes) {
        if (file.onDisk().isEmpty()) {
            return List.of(FilePiece.ALL);
        }
        try (ParquetInput input = new ParquetInput(file, FilePiece.ALL)) {
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
        ParquetInput input = new ParquetInput(file, piece);
        try {
            return input.read(() -> {
                List<String> names = input.names();
                ColumnMatch.check(
                        names, table.columnNames(), new Origin(table.name().toString(), file.shown(), 0, true));
                return new RowGroupsReader(
                        input, file.shown(), table.withColumns(columns), columns, piece.line(), rejects);
            });
        } catch (RuntimeException e) {
            input.close();
            throw e;
        }
    }

    @Override
    public TablesWriter write(OutputStream out, String shown, List<TableDefinition> tables, FileSettings settings) {
        if (tables.size() != 1) {
            throw new UsageException("a Parquet file holds one table, and these are " + tables.size()
                    + "; name one of them, or give a folder instead of " + shown);
        }
        return new ParquetTableWriter(out, shown, tables.get(0), codec(settings));
    }
}
