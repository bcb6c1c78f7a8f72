package org.orderlyferry.columnar.parquet;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.apache.parquet.ParquetReadOptions;
import org.apache.parquet.conf.PlainParquetConfiguration;
import org.apache.parquet.hadoop.ParquetFileReader;
import org.apache.parquet.hadoop.metadata.BlockMetaData;
import org.apache.parquet.hadoop.metadata.FileMetaData;
import org.apache.parquet.io.LocalInputFile;
import org.apache.parquet.schema.MessageType;
import org.apache.parquet.schema.PrimitiveType.PrimitiveTypeName;
import org.apache.parquet.schema.Type;
import org.orderlyferry.columnar.FileDefinitions;
import org.orderlyferry.columnar.Guarded;
import org.orderlyferry.format.FilePiece;
import org.orderlyferry.format.FileSource;
import org.orderlyferry.format.OnDisk;
import org.orderlyferry.io.Closing;
import org.orderlyferry.model.Finding;
import org.orderlyferry.model.FindingCode;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;

/** A file to be read. */
final class ParquetInput implements AutoCloseable {

    private final String shown;
    private final Guarded guarded;
    private final OnDisk file;
    private final ParquetFileReader reader;

    /** Opens a file, or those groups of its rows that begin in a piece. */
    ParquetInput(FileSource source, FilePiece piece) {
        this.shown = source.shown();
        this.guarded = new Guarded(shown, "Parquet");
        this.file = read(() -> new OnDisk(source));
        try {
            this.reader = read(() -> {
                ParquetReadOptions.Builder options = ParquetReadOptions.builder(new PlainParquetConfiguration())
                        .withCodecFactory(Codecs.ALL)
                        .usePageChecksumVerification(true)
                        // all is read, so nothing is gained by looking at statistics that may be wrong
                        .useStatsFilter(false)
                        .useColumnIndexFilter(false)
                        .useDictionaryFilter(false)
                        .useBloomFilter(false);
                if (!piece.isWhole()) {
                    options.withRange(piece.from(), piece.to());
                }
                return ParquetFileReader.open(new LocalInputFile(file.path()), options.build());
            });
        } catch (RuntimeException e) {
            Closing.after(e, file);
            throw e;
        }
    }

    /** Does a step of reading. */
    <T> T read(Guarded.Step<T> step) {
        return guarded.read(step);
    }

    ParquetFileReader reader() {
        return reader;
    }

    private FileMetaData said() {
        return reader.getFileMetaData();
    }

    MessageType schema() {
        return said().getSchema();
    }

    String madeBy() {
        return Optional.ofNullable(said().getCreatedBy()).orElse("");
    }

    /** What columns are called here: as the file calls them, or by their place where it calls them nothing. */
    List<String> names() {
        List<String> names = new ArrayList<>();
        Set<String> taken = new HashSet<>();
        for (Type field : schema().getFields()) {
            String name = field.getName().isEmpty() ? "column " + (names.size() + 1) : field.getName();
            if (!taken.add(name)) {
                throw new IllegalArgumentException("two of its columns are called " + name);
            }
            names.add(name);
        }
        return names;
    }

    /** The table as the file's schema has it. */
    TableDefinition plain(String name) {
        TableDefinition.Builder table = TableDefinition.named(name);
        List<String> names = names();
        for (int i = 0; i < names.size(); i++) {
            table.column(ParquetTypes.column(schema().getType(i), names.get(i)));
        }
        return table.build();
    }

    /** What a person should know of its columns. */
    List<Finding> findings(TableName table) {
        List<Finding> findings = new ArrayList<>();
        for (Type field : schema().getFields()) {
            if (field.isPrimitive() && field.asPrimitiveType().getPrimitiveTypeName() == PrimitiveTypeName.INT96) {
                findings.add(new Finding(
                        FindingCode.VALUE_ODD,
                        table,
                        field.getName(),
                        "holds moments as older programs wrote them, some of them in UTC and some in a zone of their own;"
                                + " the file doesn't say which"));
            }
        }
        return findings;
    }

    /** The table as the file's own definition has it, where that is of these very columns. */
    Optional<TableDefinition> defined(String name) {
        List<String> columns = names();
        return FileDefinitions.in(said().getKeyValueMetaData(), shown, name)
                .filter(t -> t.columnNames().equals(columns));
    }

    /** Pieces of whole groups of rows, of so many bytes about. */
    List<FilePiece> pieces(long bytes) {
        List<FilePiece> pieces = new ArrayList<>();
        List<BlockMetaData> groups = reader.getRowGroups();
        long from = 0;
        long size = 0;
        long first = 1;
        long rows = 0;
        for (int i = 0; i < groups.size(); i++) {
            BlockMetaData group = groups.get(i);
            from = size == 0 ? group.getStartingPos() : from;
            size += group.getCompressedSize();
            rows += group.getRowCount();
            boolean last = i == groups.size() - 1;
            if (last || size >= bytes) {
                long to = last
                        ? group.getStartingPos() + group.getCompressedSize()
                        : groups.get(i + 1).getStartingPos();
                pieces.add(new FilePiece(0, from, to, first));
                first += rows;
                size = 0;
                rows = 0;
            }
        }
        return pieces.size() < 2 ? List.of(FilePiece.ALL) : pieces;
    }

    @Override
    public void close() {
        try {
            read(() -> {
                reader.close();
                return null;
            });
        } finally {
            file.close();
        }
    }
}
