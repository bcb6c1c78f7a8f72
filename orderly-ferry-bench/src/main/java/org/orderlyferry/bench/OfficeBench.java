package org.orderlyferry.bench;

import com.healthmarketscience.jackcess.ColumnBuilder;
import com.healthmarketscience.jackcess.DataType;
import com.healthmarketscience.jackcess.Database;
import com.healthmarketscience.jackcess.DatabaseBuilder;
import com.healthmarketscience.jackcess.IndexBuilder;
import com.healthmarketscience.jackcess.Table;
import com.healthmarketscience.jackcess.TableBuilder;
import java.io.IOException;
import java.io.OutputStream;
import java.io.Reader;
import java.math.BigDecimal;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import org.apache.commons.csv.CSVFormat;
import org.apache.commons.csv.CSVParser;
import org.apache.commons.csv.CSVRecord;
import org.apache.poi.hssf.usermodel.HSSFWorkbook;
import org.apache.poi.ss.usermodel.CellStyle;
import org.apache.poi.ss.usermodel.Row;
import org.apache.poi.ss.usermodel.Sheet;
import org.orderlyferry.place.LoadMode;
import org.orderlyferry.place.OpenOptions;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.PlaceAddress;
import org.orderlyferry.place.Places;
import org.orderlyferry.place.TargetPlace;
import org.orderlyferry.work.Load;

/**
 * Desktop databases and old workbooks out of CSV, next to the plain loop that somebody would write over the libraries: the same types,
 * and the same key. In turns, medians of all rounds.
 */
public final class OfficeBench {

    private static final int ROUNDS = Integer.getInteger("bench.rounds", 5);

    /** Of records that a sheet of an old workbook holds. */
    private static final long MEGABYTES = 8;

    private static final int BATCH = 1000;

    private final Path folder;

    private OfficeBench(Path folder) {
        this.folder = folder;
    }

    /** Runs it. */
    public static void main(String[] arguments) throws Exception {
        Trees.temporary("ferry-office", folder -> new OfficeBench(folder).run());
    }

    private void run() throws Exception {
        Path csv = folder.resolve("reading.csv");
        long rows = FormatBench.sample(csv, MEGABYTES * 1_000_000);
        described(csv);
        System.out.printf(Locale.ROOT, "%,d rows, %d rounds%n", rows, ROUNDS);
        Path database = folder.resolve("loop.accdb");
        Path workbook = folder.resolve("loop.xls");
        Measure access = Measure.of("CSV to .accdb", () -> convert(csv, folder.resolve("ours.accdb")));
        Measure accessLoop = Measure.of("loop", () -> access(csv, database));
        Measure sheet = Measure.of("CSV to .xls", () -> convert(csv, folder.resolve("ours.xls")));
        Measure sheetLoop = Measure.of("loop", () -> workbook(csv, workbook));
        // the first round of each is Java's own
        Measure.rounds(1, List.of(access, accessLoop, sheet, sheetLoop));
        List.of(access, accessLoop, sheet, sheetLoop).forEach(m -> m.seconds().clear());
        Measure.rounds(ROUNDS, List.of(access, accessLoop, sheet, sheetLoop));
        List<Ratio> ratios = new ArrayList<>();
        ratios.add(Ratio.of("CSV to .accdb / loop of two libraries", access, accessLoop, 1.05));
        ratios.add(Ratio.of("CSV to .xls / loop of two libraries", sheet, sheetLoop, 1.05));
        Report.print(ratios);
    }

    /** The definition that the loop's table has. */
    private static void described(Path csv) throws IOException {
        Files.writeString(
                csv.resolveSibling(csv.getFileName() + "-metadata.json"),
                "{\"tableSchema\":{\"primaryKey\":\"id\",\"columns\":["
                        + "{\"name\":\"id\",\"datatype\":\"int\"},"
                        + "{\"name\":\"code\",\"datatype\":{\"base\":\"string\",\"maxLength\":20}},"
                        + "{\"name\":\"note\",\"datatype\":{\"base\":\"string\",\"maxLength\":80}},"
                        + "{\"name\":\"amount\",\"datatype\":\"int\"},"
                        + "{\"name\":\"price\",\"datatype\":{\"base\":\"double\"}},"
                        + "{\"name\":\"ratio\",\"datatype\":\"double\"},"
                        + "{\"name\":\"day\",\"datatype\":\"date\"},"
                        + "{\"name\":\"moment\",\"datatype\":\"dateTime\"},"
                        + "{\"name\":\"flag\",\"datatype\":\"boolean\",\"required\":true},"
                        + "{\"name\":\"remark\",\"datatype\":{\"base\":\"string\",\"maxLength\":200}}]}}");
    }

    private static void convert(Path from, Path to) throws IOException {
        Files.deleteIfExists(to);
        try (Place source = Places.open(PlaceAddress.of(from), OpenOptions.DEFAULT);
                TargetPlace target = Places.openTarget(PlaceAddress.of(to), OpenOptions.DEFAULT)) {
            Load.from(source).mode(LoadMode.CREATE).into(target);
        }
    }

    private static CSVParser records(Reader in) throws IOException {
        return CSVFormat.RFC4180
                .builder()
                .setHeader()
                .setSkipHeaderRecord(true)
                .setNullString("")
                .get()
                .parse(in);
    }

    private static void access(Path csv, Path to) throws IOException {
        Files.deleteIfExists(to);
        try (Database database = new DatabaseBuilder(to)
                        .setFileFormat(Database.FileFormat.V2010)
                        .setAutoSync(false)
                        .create();
                Reader in = Files.newBufferedReader(csv);
                CSVParser records = records(in)) {
            Table table = new TableBuilder("reading")
                    .addColumn(new ColumnBuilder("id", DataType.LONG))
                    .addColumn(new ColumnBuilder("code", DataType.TEXT).setLengthInUnits(20))
                    .addColumn(new ColumnBuilder("note", DataType.TEXT).setLengthInUnits(80))
                    .addColumn(new ColumnBuilder("amount", DataType.LONG))
                    .addColumn(new ColumnBuilder("price", DataType.DOUBLE))
                    .addColumn(new ColumnBuilder("ratio", DataType.DOUBLE))
                    .addColumn(new ColumnBuilder("day", DataType.SHORT_DATE_TIME))
                    .addColumn(new ColumnBuilder("moment", DataType.SHORT_DATE_TIME))
                    .addColumn(new ColumnBuilder("flag", DataType.BOOLEAN))
                    .addColumn(new ColumnBuilder("remark", DataType.TEXT).setLengthInUnits(200))
                    .addIndex(new IndexBuilder(IndexBuilder.PRIMARY_KEY_NAME)
                            .addColumns("id")
                            .setPrimaryKey())
                    .toTable(database);
            List<Object[]> batch = new ArrayList<>();
            for (CSVRecord record : records) {
                batch.add(new Object[] {
                    Integer.parseInt(record.get(0)),
                    record.get(1),
                    record.get(2),
                    Integer.parseInt(record.get(3)),
                    new BigDecimal(record.get(4)),
                    Double.parseDouble(record.get(5)),
                    LocalDate.parse(record.get(6)).atStartOfDay(),
                    LocalDateTime.parse(record.get(7)),
                    Boolean.parseBoolean(record.get(8)),
                    record.get(9)
                });
                if (batch.size() == BATCH) {
                    table.addRows(batch);
                    batch.clear();
                }
            }
            table.addRows(batch);
        }
    }

    private static void workbook(Path csv, Path to) throws IOException {
        try (HSSFWorkbook workbook = new HSSFWorkbook();
                Reader in = Files.newBufferedReader(csv);
                CSVParser records = records(in);
                OutputStream out = Files.newOutputStream(to)) {
            Sheet sheet = workbook.createSheet("reading");
            CellStyle day = workbook.createCellStyle();
            day.setDataFormat(workbook.createDataFormat().getFormat("yyyy-mm-dd"));
            CellStyle moment = workbook.createCellStyle();
            moment.setDataFormat(workbook.createDataFormat().getFormat("yyyy-mm-dd hh:mm:ss"));
            Row header = sheet.createRow(0);
            List<String> names = records.getHeaderNames();
            for (int i = 0; i < names.size(); i++) {
                header.createCell(i).setCellValue(names.get(i));
            }
            int number = 1;
            for (CSVRecord record : records) {
                Row row = sheet.createRow(number++);
                for (int i : new int[] {0, 3, 4, 5}) {
                    row.createCell(i).setCellValue(Double.parseDouble(record.get(i)));
                }
                for (int i : new int[] {1, 2, 9}) {
                    if (record.get(i) != null) {
                        row.createCell(i).setCellValue(record.get(i));
                    }
                }
                row.createCell(6).setCellValue(LocalDate.parse(record.get(6)));
                row.getCell(6).setCellStyle(day);
                row.createCell(7).setCellValue(LocalDateTime.parse(record.get(7)));
                row.getCell(7).setCellStyle(moment);
                row.createCell(8).setCellValue(Boolean.parseBoolean(record.get(8)));
            }
            workbook.write(out);
        }
    }
}
