package org.orderlyferry.bench;

import com.fasterxml.jackson.core.JsonFactory;
import com.fasterxml.jackson.core.JsonGenerator;
import java.io.BufferedOutputStream;
import java.io.BufferedReader;
import java.io.BufferedWriter;
import java.io.InputStream;
import java.io.OutputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.stream.Stream;
import javax.xml.stream.XMLInputFactory;
import javax.xml.stream.XMLOutputFactory;
import javax.xml.stream.XMLStreamConstants;
import javax.xml.stream.XMLStreamReader;
import javax.xml.stream.XMLStreamWriter;
import org.apache.commons.csv.CSVFormat;
import org.apache.commons.csv.CSVParser;
import org.apache.commons.csv.CSVPrinter;
import org.apache.commons.csv.CSVRecord;
import org.dhatim.fastexcel.Workbook;
import org.dhatim.fastexcel.Worksheet;
import org.dhatim.fastexcel.reader.Cell;
import org.dhatim.fastexcel.reader.ReadableWorkbook;
import org.dhatim.fastexcel.reader.Row;
import org.dhatim.fastexcel.reader.Sheet;
import org.orderlyferry.format.FileFormat;
import org.orderlyferry.format.FileFormats;
import org.orderlyferry.place.LoadMode;
import org.orderlyferry.place.OpenOptions;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.PlaceAddress;
import org.orderlyferry.place.Places;
import org.orderlyferry.place.TargetPlace;
import org.orderlyferry.work.Load;

/**
 * Every format's writing and reading, in megabytes of the same table's CSV a second; and conversions next to the plain
 * loop that somebody would write over the libraries. In turns, medians of all rounds.
 */
public final class FormatBench {

    private static final int ROUNDS = Integer.getInteger("bench.rounds", 3);
    private static final long MEGABYTES = Long.getLong("bench.megabytes", 200);
    private static final long FEW_MEGABYTES = 5;
    /** So many rows go on a sheet, in the loop as in ours. */
    private static final int SHEET_ROWS = 1_048_576;

    private static final String[] NAMES = {
        "id", "code", "note", "amount", "price", "ratio", "day", "moment", "flag", "remark"
    };
    private static final String[] TYPES = {
        "long", "string", "string", "int", "decimal", "double", "date", "dateTime", "boolean", "string"
    };

    private final Path folder;

    private FormatBench(Path folder) {
        this.folder = folder;
    }

    /** Runs it all. */
    public static void main(String[] arguments) throws Exception {
        Trees.temporary("ferry-formats", folder -> new FormatBench(folder).run());
    }

    private void run() throws Exception {
        Path csv = folder.resolve("reading.csv");
        long rows = sample(csv, MEGABYTES * 1_000_000);
        System.out.printf(
                Locale.ROOT, "%,d rows, %d MB of CSV, %d rounds%n", rows, Files.size(csv) / 1_000_000, ROUNDS);
        List<Ratio> ratios = new ArrayList<>();
        lines(csv, ratios);
        xml(csv, ratios);
        sheet(csv, ratios);
        Report.print(ratios);
        rates(csv);
    }

    /** A table of ten columns, in so many bytes of CSV; says how many rows it has. */
    static long sample(Path csv, long bytes) throws Exception {
        long rows = 0;
        long size = 0;
        try (BufferedWriter out = Files.newBufferedWriter(csv)) {
            out.write(String.join(",", NAMES) + "\r\n");
            while (size < bytes) {
                long i = ++rows;
                String remark = i % 5 == 0
                        ? ""
                        : i % 7 == 0
                                ? "\"it said \"\"moss\"\", and, later, \"\"fern\"\" " + i + "\""
                                : "plain remark number " + i;
                String line = String.format(
                        Locale.ROOT,
                        "%d,QM-%08d,drawer %d of the herbarium,%d,%d.%02d,%s,%s,%s,%b,%s\r\n",
                        i,
                        i,
                        i % 977,
                        i % 100_000,
                        i % 1_000_000,
                        i % 100,
                        org.orderlyferry.record.text.JavaValues.text(i / 3.0),
                        java.time.LocalDate.of(1990, 1, 1).plusDays(i % 12_000),
                        java.time.LocalDateTime.of(2001, 2, 3, 4, 5, 6).plusSeconds(i),
                        i % 3 == 0,
                        remark);
                out.write(line);
                size += line.length();
            }
        }
        StringBuilder columns = new StringBuilder();
        for (int c = 0; c < NAMES.length; c++) {
            columns.append(c == 0 ? "" : ",")
                    .append("{\"name\":\"" + NAMES[c] + "\",\"datatype\":\"" + TYPES[c] + "\"}");
        }
        Files.writeString(
                csv.resolveSibling(csv.getFileName() + "-metadata.json"),
                "{\"tableSchema\":{\"columns\":[" + columns + "]}}");
        return rows;
    }

    private void convert(Path from, Path to) {
        OpenOptions options = OpenOptions.DEFAULT;
        try (Place source = Places.open(PlaceAddress.of(from), options);
                TargetPlace target = Places.openTarget(PlaceAddress.of(to), options)) {
            Load.from(source).mode(LoadMode.REPLACE).into(target);
        }
    }

    private static CSVParser parser(Path csv) throws Exception {
        BufferedReader in = Files.newBufferedReader(csv);
        return CSVFormat.RFC4180
                .builder()
                .setHeader()
                .setSkipHeaderRecord(true)
                .setNullString("")
                .get()
                .parse(in);
    }

    private void lines(Path csv, List<Ratio> ratios) throws Exception {
        Measure ours = Measure.of("CSV to JSON lines", () -> convert(csv, folder.resolve("ours.jsonl")));
        Measure loop = Measure.of("loop", () -> {
            try (CSVParser parser = parser(csv);
                    OutputStream out = new BufferedOutputStream(Files.newOutputStream(folder.resolve("loop.jsonl")));
                    JsonGenerator json = new JsonFactory().createGenerator(out)) {
                json.setRootValueSeparator(new com.fasterxml.jackson.core.io.SerializedString("\n"));
                for (CSVRecord record : parser) {
                    json.writeStartObject();
                    for (int c = 0; c < NAMES.length; c++) {
                        json.writeFieldName(NAMES[c]);
                        String value = record.get(c);
                        switch (value == null ? "" : TYPES[c]) {
                            case "" -> json.writeNull();
                            case "long", "int" -> json.writeNumber(Long.parseLong(value));
                            case "decimal" -> json.writeNumber(new java.math.BigDecimal(value));
                            case "double" -> json.writeNumber(Double.parseDouble(value));
                            case "boolean" -> json.writeBoolean(Boolean.parseBoolean(value));
                            default -> json.writeString(value);
                        }
                    }
                    json.writeEndObject();
                }
            }
        });
        Measure.rounds(ROUNDS, List.of(ours, loop));
        ratios.add(Ratio.of("CSV to JSON lines / loop of two libraries", ours, loop, 1 / 1.5));
    }

    private void xml(Path csv, List<Ratio> ratios) throws Exception {
        Path xml = folder.resolve("ours.xml");
        Measure write = Measure.of("CSV to XML", () -> convert(csv, xml));
        Measure writeLoop = Measure.of("loop", () -> {
            try (CSVParser parser = parser(csv);
                    OutputStream out = new BufferedOutputStream(Files.newOutputStream(folder.resolve("loop.xml")))) {
                XMLStreamWriter writer = XMLOutputFactory.newInstance().createXMLStreamWriter(out, "UTF-8");
                writer.writeStartDocument();
                writer.writeStartElement("reading");
                for (CSVRecord record : parser) {
                    writer.writeStartElement("row");
                    for (int c = 0; c < NAMES.length; c++) {
                        if (record.get(c) != null) {
                            writer.writeStartElement(NAMES[c]);
                            writer.writeCharacters(record.get(c));
                            writer.writeEndElement();
                        }
                    }
                    writer.writeEndElement();
                }
                writer.writeEndDocument();
                writer.close();
            }
        });
        Measure read = Measure.of("XML to CSV", () -> convert(xml, folder.resolve("back.csv")));
        Measure readLoop = Measure.of("loop", () -> {
            try (InputStream in = Files.newInputStream(xml);
                    CSVPrinter out =
                            new CSVPrinter(Files.newBufferedWriter(folder.resolve("loop.csv")), CSVFormat.RFC4180)) {
                XMLStreamReader reader = XMLInputFactory.newInstance().createXMLStreamReader(in);
                String[] values = new String[NAMES.length];
                while (reader.hasNext()) {
                    int event = reader.next();
                    if (event == XMLStreamConstants.START_ELEMENT
                            && !reader.getLocalName().equals("row")) {
                        int place = List.of(NAMES).indexOf(reader.getLocalName());
                        if (place >= 0) {
                            values[place] = reader.getElementText();
                        }
                    } else if (event == XMLStreamConstants.END_ELEMENT
                            && reader.getLocalName().equals("row")) {
                        out.printRecord((Object[]) values);
                        java.util.Arrays.fill(values, null);
                    }
                }
            }
        });
        Measure.rounds(ROUNDS, List.of(write, writeLoop, read, readLoop));
        ratios.add(Ratio.of("CSV to XML / loop of two libraries", write, writeLoop, 1));
        ratios.add(Ratio.of("XML to CSV / loop of two libraries", read, readLoop, 1));
    }

    private void sheet(Path csv, List<Ratio> ratios) throws Exception {
        Path xlsx = folder.resolve("ours.xlsx");
        Measure write = Measure.of("CSV to spreadsheet", () -> convert(csv, xlsx));
        Measure writeLoop = Measure.of("loop", () -> {
            try (CSVParser parser = parser(csv);
                    OutputStream out = new BufferedOutputStream(Files.newOutputStream(folder.resolve("loop.xlsx")));
                    Workbook workbook = new Workbook(out, "loop", "1.0")) {
                Worksheet sheet = workbook.newWorksheet("sheet");
                int row = 0;
                for (CSVRecord record : parser) {
                    if (++row == SHEET_ROWS) {
                        sheet.finish();
                        sheet = workbook.newWorksheet("sheet 2");
                        row = 1;
                    }
                    for (int c = 0; c < NAMES.length; c++) {
                        cell(sheet, row, c, record.get(c));
                    }
                    if (row % 500 == 0) {
                        sheet.flush();
                    }
                }
                workbook.finish();
            }
        });
        Measure read = Measure.of("spreadsheet to CSV", () -> convert(xlsx, folder.resolve("sheet-back.csv")));
        Measure readLoop = Measure.of("loop", () -> {
            try (ReadableWorkbook workbook = new ReadableWorkbook(xlsx.toFile());
                    CSVPrinter out =
                            new CSVPrinter(Files.newBufferedWriter(folder.resolve("loop.csv")), CSVFormat.RFC4180)) {
                for (Sheet sheet : workbook.getSheets().toList()) {
                    if (sheet.getName().startsWith("reading")) {
                        print(sheet, out);
                    }
                }
            }
        });
        Measure.rounds(ROUNDS, List.of(write, writeLoop, read, readLoop));
        ratios.add(Ratio.of("CSV to spreadsheet / loop of two libraries", write, writeLoop, 1));
        ratios.add(Ratio.of("spreadsheet to CSV / loop of two libraries", read, readLoop, 1));
    }

    private static void print(Sheet sheet, CSVPrinter out) throws Exception {
        try (Stream<Row> rows = sheet.openStream().skip(1)) {
            for (Row row : (Iterable<Row>) rows::iterator) {
                String[] values = new String[NAMES.length];
                for (int c = 0; c < Math.min(values.length, row.getCellCount()); c++) {
                    values[c] = text(row.getCell(c), TYPES[c]);
                }
                out.printRecord((Object[]) values);
            }
        }
    }

    /** A date is a number in a spreadsheet, and has to become a date again. */
    private static String text(Cell cell, String type) {
        if (cell == null) {
            return null;
        }
        return switch (type) {
            case "date" -> cell.asDate().toLocalDate().toString();
            case "dateTime" -> cell.asDate().toString();
            case "boolean" -> cell.asBoolean().toString();
            default -> cell.getRawValue();
        };
    }

    private static void cell(Worksheet sheet, int row, int c, String value) {
        if (value == null) {
            return;
        }
        switch (TYPES[c]) {
            case "long", "int" -> sheet.value(row, c, Long.valueOf(value));
            case "decimal" -> {
                sheet.value(row, c, new java.math.BigDecimal(value));
                sheet.style(row, c).format("0.00").set();
            }
            case "double" -> sheet.value(row, c, Double.valueOf(value));
            case "boolean" -> sheet.value(row, c, Boolean.valueOf(value));
            case "date" -> {
                sheet.value(row, c, java.time.LocalDate.parse(value));
                sheet.style(row, c).format("yyyy-mm-dd").set();
            }
            case "dateTime" -> {
                sheet.value(row, c, java.time.LocalDateTime.parse(value));
                sheet.style(row, c).format("yyyy-mm-dd hh:mm:ss").set();
            }
            default -> sheet.inlineString(row, c, value);
        }
    }

    /** Each format's speed, in megabytes of the table's CSV a second: writing from CSV, and reading into CSV. */
    private void rates(Path csv) throws Exception {
        System.out.printf(Locale.ROOT, "%n%-26s %14s %14s%n", "format", "written, MB/s", "read, MB/s");
        Path few = folder.resolve("few.csv");
        sample(few, FEW_MEGABYTES * 1_000_000);
        for (FileFormat format : FileFormats.all()) {
            // some formats are only written as a whole, from memory
            Path from = format.endings().contains("xls") ? few : csv;
            double megabytes = Files.size(from) / 1e6;
            Path there = folder.resolve("rate." + format.endings().get(0));
            Measure write = Measure.of("write", () -> convert(from, there));
            Measure read = Measure.of("read", () -> convert(there, folder.resolve("rate-back.csv")));
            Measure.rounds(ROUNDS, List.of(write, read));
            System.out.printf(
                    Locale.ROOT,
                    "%-26s %14.1f %14.1f%n",
                    format.name(),
                    megabytes / write.median(),
                    megabytes / read.median());
            Files.deleteIfExists(there);
        }
    }
}
