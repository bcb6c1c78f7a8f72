package org.orderlyferry.bench;

import java.io.Reader;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import org.apache.commons.csv.CSVFormat;
import org.apache.commons.csv.CSVPrinter;
import org.apache.commons.csv.CSVRecord;
import org.apache.parquet.ParquetReadOptions;
import org.apache.parquet.column.page.PageReadStore;
import org.apache.parquet.conf.PlainParquetConfiguration;
import org.apache.parquet.example.data.Group;
import org.apache.parquet.example.data.simple.SimpleGroup;
import org.apache.parquet.example.data.simple.convert.GroupRecordConverter;
import org.apache.parquet.hadoop.ParquetFileReader;
import org.apache.parquet.hadoop.ParquetWriter;
import org.apache.parquet.hadoop.example.ExampleParquetWriter;
import org.apache.parquet.hadoop.metadata.CompressionCodecName;
import org.apache.parquet.io.ColumnIOFactory;
import org.apache.parquet.io.LocalInputFile;
import org.apache.parquet.io.LocalOutputFile;
import org.apache.parquet.io.RecordReader;
import org.apache.parquet.schema.MessageType;
import org.apache.parquet.schema.MessageTypeParser;
import org.orderlyferry.format.FileSettings;
import org.orderlyferry.place.LoadMode;
import org.orderlyferry.place.OpenOptions;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.PlaceAddress;
import org.orderlyferry.place.Places;
import org.orderlyferry.place.TargetPlace;
import org.orderlyferry.work.Load;

/**
 * Parquet from CSV and back, next to the plain loop that somebody would write over the library's own records; pages uncompressed on
 * both sides, since the library alone has no way to pack them. In turns, medians of all rounds.
 */
public final class ColumnarBench {

    private static final int ROUNDS = Integer.getInteger("bench.rounds", 3);
    private static final long MEGABYTES = Long.getLong("bench.megabytes", 100);

    private static final MessageType SCHEMA = MessageTypeParser.parseMessageType("message reading {"
            + " optional int64 id; optional binary code (STRING); optional binary note (STRING);"
            + " optional int32 amount; optional double price; optional double ratio;"
            + " optional int32 day (DATE); optional int64 moment (TIMESTAMP(MICROS, false));"
            + " optional boolean flag; optional binary remark (STRING); }");

    private final Path folder;

    private ColumnarBench(Path folder) {
        this.folder = folder;
    }

    /** Runs it. */
    public static void main(String[] arguments) throws Exception {
        Trees.temporary("ferry-columnar", folder -> new ColumnarBench(folder).run());
    }

    private void run() throws Exception {
        Path csv = folder.resolve("reading.csv");
        long rows = FormatBench.sample(csv, MEGABYTES * 1_000_000);
        System.out.printf(
                Locale.ROOT, "%,d rows, %d MB of CSV, %d rounds%n", rows, Files.size(csv) / 1_000_000, ROUNDS);
        Path ours = folder.resolve("ours.parquet");
        Path theirs = folder.resolve("loop.parquet");
        Measure write = Measure.of("CSV to Parquet", () -> convert(csv, ours));
        Measure writeLoop = Measure.of("loop", () -> written(csv, theirs));
        Measure read = Measure.of("Parquet to CSV", () -> convert(theirs, folder.resolve("ours-back.csv")));
        Measure readLoop = Measure.of("loop", () -> read(theirs, folder.resolve("loop-back.csv")));
        Measure.rounds(ROUNDS, List.of(write, writeLoop, read, readLoop));
        List<Ratio> ratios = new ArrayList<>();
        ratios.add(Ratio.of("CSV to Parquet / loop of two libraries", write, writeLoop, 0.9));
        ratios.add(Ratio.of("Parquet to CSV / loop of two libraries", read, readLoop, 0.9));
        Report.print(ratios);
    }

    private static void convert(Path from, Path to) {
        OpenOptions plain = OpenOptions.builder()
                .files(FileSettings.NONE.with("pages", "none"))
                .build();
        OpenOptions options = to.toString().endsWith(".parquet") ? plain : OpenOptions.DEFAULT;
        try (Place source = Places.open(PlaceAddress.of(from), OpenOptions.DEFAULT);
                TargetPlace target = Places.openTarget(PlaceAddress.of(to), options)) {
            Load.from(source).mode(LoadMode.REPLACE).into(target);
        }
    }

    private static void written(Path csv, Path to) throws Exception {
        Files.deleteIfExists(to);
        CSVFormat format = CSVFormat.RFC4180
                .builder()
                .setHeader()
                .setSkipHeaderRecord(true)
                .setNullString("")
                .get();
        try (Reader in = Files.newBufferedReader(csv);
                ParquetWriter<Group> writer = ExampleParquetWriter.builder(new LocalOutputFile(to))
                        .withType(SCHEMA)
                        .withConf(new PlainParquetConfiguration())
                        .withCompressionCodec(CompressionCodecName.UNCOMPRESSED)
                        .withRowGroupSize(32L * 1024 * 1024)
                        .build()) {
            for (CSVRecord record : format.parse(in)) {
                SimpleGroup group = new SimpleGroup(SCHEMA);
                for (int c = 0; c < SCHEMA.getFieldCount(); c++) {
                    String value = record.get(c);
                    if (value != null) {
                        put(group, c, value);
                    }
                }
                writer.write(group);
            }
        }
    }

    private static void put(Group group, int c, String value) {
        switch (c) {
            case 0 -> group.add(c, Long.parseLong(value));
            case 3 -> group.add(c, Integer.parseInt(value));
            case 4, 5 -> group.add(c, Double.parseDouble(value));
            case 6 -> group.add(c, (int) LocalDate.parse(value).toEpochDay());
            case 7 -> group.add(c, LocalDateTime.parse(value).toEpochSecond(ZoneOffset.UTC) * 1_000_000);
            case 8 -> group.add(c, Boolean.parseBoolean(value));
            default -> group.add(c, value);
        }
    }

    private static void read(Path from, Path csv) throws Exception {
        ParquetReadOptions options =
                ParquetReadOptions.builder(new PlainParquetConfiguration()).build();
        try (ParquetFileReader file = ParquetFileReader.open(new LocalInputFile(from), options);
                CSVPrinter out = new CSVPrinter(Files.newBufferedWriter(csv), CSVFormat.RFC4180)) {
            MessageType schema = file.getFileMetaData().getSchema();
            for (PageReadStore pages = file.readNextRowGroup(); pages != null; pages = file.readNextRowGroup()) {
                RecordReader<Group> records = new ColumnIOFactory()
                        .getColumnIO(schema)
                        .getRecordReader(pages, new GroupRecordConverter(schema));
                for (long row = 0; row < pages.getRowCount(); row++) {
                    print(records.read(), out);
                }
            }
        }
    }

    private static void print(Group group, CSVPrinter out) throws Exception {
        Object[] values = new Object[SCHEMA.getFieldCount()];
        for (int c = 0; c < values.length; c++) {
            if (group.getFieldRepetitionCount(c) > 0) {
                values[c] = switch (c) {
                    case 6 -> LocalDate.ofEpochDay(group.getInteger(c, 0));
                    case 7 -> LocalDateTime.ofEpochSecond(group.getLong(c, 0) / 1_000_000, 0, ZoneOffset.UTC);
                    default -> group.getValueToString(c, 0);
                };
            }
        }
        out.printRecord(values);
    }
}
