package org.orderlyferry.matrix;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.stream.Collectors;
import net.jqwik.api.Arbitraries;
import net.jqwik.api.Arbitrary;
import net.jqwik.api.Combinators;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.Provide;
import net.jqwik.api.statistics.Statistics;
import org.orderlyferry.format.FileSettings;
import org.orderlyferry.place.LoadMode;
import org.orderlyferry.place.OpenOptions;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.PlaceAddress;
import org.orderlyferry.place.Places;
import org.orderlyferry.place.TargetPlace;
import org.orderlyferry.problem.BadValueException;
import org.orderlyferry.problem.UsageException;
import org.orderlyferry.reconcile.Reconcile;
import org.orderlyferry.testkit.folder.OneTry;
import org.orderlyferry.testkit.herbarium.HostileTexts;
import org.orderlyferry.work.Load;

/**
 * Generated records, in every format with generated settings: they come back as they were, or are refused with the
 * value's name and leave no file. Nothing in between.
 */
class FormatSettingsTest {

    private static final String DESCRIPTION =
            """
            {"tableSchema": {"primaryKey": "id", "columns": [
              {"name": "id", "datatype": "int", "required": true},
              {"name": "note", "datatype": {"base": "string", "maxLength": 400}},
              {"name": "size", "datatype": "decimal", "https://orderly-ferry.example/ns#type": "DECIMAL(12,3)"},
              {"name": "many", "datatype": "long"},
              {"name": "ratio", "datatype": "double"},
              {"name": "day", "datatype": "date"},
              {"name": "at", "datatype": "dateTime", "https://orderly-ferry.example/ns#type": "TIMESTAMP(3)"},
              {"name": "dry", "datatype": "boolean"},
              {"name": "scan", "datatype": "base64Binary"}]}}
            """;

    /** A record's values, as a file has them; null for null. */
    record Record(List<String> values) {}

    @Provide
    Arbitrary<List<Record>> records() {
        Arbitrary<String> texts = Arbitraries.oneOf(
                Arbitraries.of(HostileTexts.ALL),
                Arbitraries.of(
                        "",
                        "moss",
                        "#",
                        "# none",
                        ";",
                        "||",
                        "~^~",
                        "a||b",
                        "\\",
                        "\"",
                        "'",
                        "\\\"",
                        "NA",
                        "-",
                        "Y",
                        "n",
                        "ß",
                        "€",
                        "山",
                        "\uD83C\uDF3F",
                        "\uFEFF",
                        "a\u0000b",
                        "\u0001",
                        "\u0085",
                        "\u2028",
                        "x\ty"),
                Arbitraries.strings().ofMaxLength(12).filter(t -> t.chars()
                        .noneMatch(c -> Character.isSurrogate((char) c))));
        Arbitrary<String> size = Arbitraries.longs()
                .between(-999_999_999_999L, 999_999_999_999L)
                .map(l -> java.math.BigDecimal.valueOf(l, 3).toPlainString());
        Arbitrary<String> many = Arbitraries.longs().map(String::valueOf);
        Arbitrary<String> ratio = Arbitraries.doubles().map(org.orderlyferry.record.text.JavaValues::text);
        Arbitrary<String> day = Arbitraries.integers()
                .between(-50_000, 80_000)
                .map(d -> java.time.LocalDate.ofEpochDay(d).toString());
        Arbitrary<String> at = Arbitraries.longs()
                .between(-2_000_000_000_000L, 4_000_000_000_000L)
                .map(ms -> org.orderlyferry.record.text.JavaValues.text(java.time.LocalDateTime.ofEpochSecond(
                        Math.floorDiv(ms, 1000L),
                        (int) Math.floorMod(ms, 1000L) * 1_000_000,
                        java.time.ZoneOffset.UTC)));
        Arbitrary<String> dry = Arbitraries.of("true", "false");
        Arbitrary<String> scan = Arbitraries.bytes()
                .array(byte[].class)
                .ofMaxSize(20)
                .map(b -> java.util.Base64.getEncoder().encodeToString(b));
        return Combinators.combine(
                        texts.injectNull(0.1),
                        size.injectNull(0.1),
                        many.injectNull(0.1),
                        ratio.injectNull(0.1),
                        day.injectNull(0.1),
                        at.injectNull(0.1),
                        dry.injectNull(0.1),
                        scan.injectNull(0.1))
                .as((a, b, c, d, e, f, g, h) -> new Record(java.util.Arrays.asList(a, b, c, d, e, f, g, h)))
                .list()
                .ofMinSize(1)
                .ofMaxSize(6);
    }

    private static Arbitrary<Map<String, String>> settings(Map<String, List<String>> choices) {
        Arbitrary<Map<String, String>> all = Arbitraries.just(Map.of());
        for (Map.Entry<String, List<String>> choice : new TreeMap<>(choices).entrySet()) {
            all = Combinators.combine(all, Arbitraries.of(choice.getValue()).injectNull(0.5))
                    .as((settings, value) -> {
                        Map<String, String> more = new TreeMap<>(settings);
                        if (value != null) {
                            more.put(choice.getKey(), value);
                        }
                        return more;
                    });
        }
        return all;
    }

    @Provide
    Arbitrary<Map<String, String>> delimited() {
        return settings(Map.ofEntries(
                Map.entry("delimiter", List.of(",", ";", "\\t", "|", "||", "~^~", "§", " ")),
                Map.entry("quoteChar", List.of("\"", "'", "none")),
                Map.entry("doubleQuote", List.of("true", "false")),
                Map.entry("lineTerminators", List.of("CRLF", "LF", "CR")),
                Map.entry(
                        "encoding",
                        List.of(
                                "UTF-8",
                                "UTF-16",
                                "UTF-16LE",
                                "UTF-16BE",
                                "UTF-32",
                                "windows-1252",
                                "ISO-8859-15",
                                "IBM037",
                                "Shift_JIS",
                                "GB18030")),
                Map.entry("header", List.of("true", "false")),
                Map.entry("null", List.of("", "\\N", "NULL", "NULL|-", "NA||x")),
                Map.entry("trim", List.of("true", "false", "start", "end")),
                Map.entry("commentPrefix", List.of("#", "//")),
                Map.entry("boolean", List.of("Y|N", "yes,1|no,0")),
                Map.entry("decimalChar", List.of(",", ".")),
                Map.entry("groupChar", List.of(" ", "'")),
                Map.entry("dateFormat", List.of("dd.MM.yyyy", "M/d/yyyy", "yyyyMMdd")),
                Map.entry("timestampFormat", List.of("dd.MM.yyyy HH:mm:ss.SSS", "yyyy-MM-dd HH:mm"))));
    }

    @Provide
    Arbitrary<Map<String, String>> fixed() {
        return settings(Map.of(
                        "lineTerminators", List.of("CRLF", "LF"),
                        "encoding", List.of("UTF-8", "UTF-16LE", "windows-1252"),
                        "header", List.of("true", "false"),
                        "null", List.of("", "-", "NULL"),
                        "boolean", List.of("Y|N"),
                        "decimalChar", List.of(",")))
                .map(settings -> {
                    Map<String, String> fixed = new TreeMap<>(settings);
                    fixed.put("widths", "6,60,16,21,26,10,26,6,40");
                    return fixed;
                });
    }

    @Provide
    Arbitrary<Map<String, String>> json() {
        return settings(Map.of(
                "shape",
                List.of("array", "lines", "keyed"),
                "keyName",
                List.of("id", "key"),
                "wrappers",
                List.of("true", "false")));
    }

    @Provide
    Arbitrary<Map<String, String>> xml() {
        return settings(Map.of("style", List.of("elements", "attributes"), "version", List.of("1.0", "1.1")));
    }

    @Provide
    Arbitrary<Map<String, String>> spreadsheets() {
        return settings(Map.of("sheetRows", List.of("2", "3", "4")));
    }

    @Provide
    Arbitrary<Map<String, String>> scripts() {
        return settings(Map.of(
                "dialect",
                List.of("postgresql", "mariadb", "sqlite", "h2"),
                "rows",
                List.of("1", "2"),
                "bulk",
                List.of("true")));
    }

    @Provide
    Arbitrary<Map<String, String>> xbase() {
        return settings(Map.of("encoding", List.of("UTF-8", "windows-1252", "IBM850", "windows-1251")));
    }

    @Property(tries = 300, seed = "417")
    void delimitedText(@ForAll("records") List<Record> records, @ForAll("delimited") Map<String, String> settings)
            throws IOException {
        roundTrip("csv", records, settings);
    }

    @Property(tries = 150, seed = "417")
    void columnsOfFixedWidths(@ForAll("records") List<Record> records, @ForAll("fixed") Map<String, String> settings)
            throws IOException {
        roundTrip("txt", records, settings);
    }

    @Property(tries = 100, seed = "417")
    void jsonOfAnyShape(@ForAll("records") List<Record> records, @ForAll("json") Map<String, String> settings)
            throws IOException {
        roundTrip("json", records, settings);
    }

    @Property(tries = 100, seed = "417")
    void xmlOfAnyStyle(@ForAll("records") List<Record> records, @ForAll("xml") Map<String, String> settings)
            throws IOException {
        roundTrip("xml", records, settings);
    }

    @Property(tries = 60, seed = "417")
    void spreadsheetsOfSeveralSheets(
            @ForAll("records") List<Record> records, @ForAll("spreadsheets") Map<String, String> settings)
            throws IOException {
        roundTrip("xlsx", records, settings);
    }

    @Property(tries = 100, seed = "417")
    void scriptsOfAnyDialect(@ForAll("records") List<Record> records, @ForAll("scripts") Map<String, String> settings)
            throws IOException {
        roundTrip("sql", records, settings);
    }

    @Property(tries = 100, seed = "417")
    void xbaseTables(@ForAll("records") List<Record> records, @ForAll("xbase") Map<String, String> settings)
            throws IOException {
        roundTrip("dbf", records, settings);
    }

    private static void roundTrip(String ending, List<Record> records, Map<String, String> settings)
            throws IOException {
        try (OneTry one = OneTry.begin()) {
            roundTrip(one.path(), ending, records, settings);
        }
    }

    private static void roundTrip(Path folder, String ending, List<Record> records, Map<String, String> settings)
            throws IOException {
        Path source = folder.resolve("label.csv");
        StringBuilder csv = new StringBuilder("id,note,size,many,ratio,day,at,dry,scan\r\n");
        for (int i = 0; i < records.size(); i++) {
            csv.append(i + 1)
                    .append(records.get(i).values().stream()
                            .map(v -> v == null ? "" : '"' + v.replace("\"", "\"\"") + '"')
                            .collect(Collectors.joining(",", ",", "\r\n")));
        }
        Files.writeString(source, csv);
        Files.writeString(folder.resolve("label.csv-metadata.json"), DESCRIPTION);
        Path file = folder.resolve("there." + ending);
        OpenOptions options =
                OpenOptions.builder().files(new FileSettings(settings)).build();
        try (Place from = Places.open(source.toString())) {
            try (TargetPlace target = Places.openTarget(PlaceAddress.of(file), options)) {
                Load.from(from).mode(LoadMode.REPLACE).into(target);
            } catch (BadValueException | UsageException e) {
                // what it says is for a person
                assertThat(e.getMessage()).doesNotContain("Exception").isNotBlank();
                assertThat(file).doesNotExist();
                outcome(false);
                return;
            }
            try (Place back = Places.open(PlaceAddress.of(file), options)) {
                var result = Reconcile.between(from, back).compare();
                assertThat(result.isEqual()).as(result + "\n" + csv).isTrue();
                outcome(true);
            }
        }
    }

    /** Most are taken: a format that refuses everything would never lose anything. */
    private static void outcome(boolean taken) {
        Statistics.collect(taken ? "taken" : "refused");
        Statistics.coverage(c -> c.check("taken").percentage(p -> p > 20.0));
    }
}
