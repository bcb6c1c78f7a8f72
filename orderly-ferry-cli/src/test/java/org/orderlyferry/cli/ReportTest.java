package org.orderlyferry.cli;

import static org.assertj.core.api.Assertions.assertThat;
import static org.junit.jupiter.api.Assumptions.assumeTrue;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.networknt.schema.JsonSchema;
import com.networknt.schema.JsonSchemaFactory;
import com.networknt.schema.SpecVersion;
import java.io.File;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.MessageDigest;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.PreparedStatement;
import java.sql.Statement;
import java.util.Base64;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.TimeUnit;
import java.util.stream.Stream;
import org.jsoup.Jsoup;
import org.jsoup.nodes.Document;
import org.jsoup.nodes.Element;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.orderlyferry.cli.report.ReportForm;
import org.orderlyferry.cli.report.ReportWriter;
import org.orderlyferry.report.WorkRecord;
import org.orderlyferry.testkit.herbarium.Herbarium;
import org.orderlyferry.testkit.records.LargeRecord;

/** Reports of runs and of single pieces of work: the page, the text, the record, and what the terminal says. */
class ReportTest {

    private static final Set<String> ELEMENTS = Set.of(
            "html",
            "head",
            "meta",
            "title",
            "style",
            "body",
            "header",
            "p",
            "h1",
            "h2",
            "dl",
            "dt",
            "dd",
            "nav",
            "ul",
            "li",
            "a",
            "main",
            "section",
            "figure",
            "figcaption",
            "b",
            "svg",
            "desc",
            "polyline",
            "rect",
            "text",
            "div",
            "table",
            "caption",
            "thead",
            "tbody",
            "tr",
            "th",
            "td",
            "pre",
            "span",
            "footer");

    @TempDir
    private static Path folder;

    private static Path crossing;

    @BeforeAll
    static void runACrossing() throws Exception {
        Path old = folder.resolve("old.mv.db");
        new Herbarium().specimens(60).readings(800).commonDates(true).create(old);
        crossing = folder.resolve("crossing.yaml");
        must(0, "draft", old, folder.resolve("new.sqlite"), "--file", crossing);
        Files.writeString(
                crossing,
                Files.readString(crossing)
                        .replaceFirst("\nproof: digests", "\nproof: rows")
                        .replaceFirst("\nsource-moment: one ", "\nsource-moment: still "));
        must(0, "run", crossing);
    }

    private static Ferry must(int code, Object... arguments) {
        Ferry done = Ferry.run(arguments);
        assertThat(done.code())
                .as(List.of(arguments) + "\n" + done.out() + done.err())
                .isEqualTo(code);
        return done;
    }

    /** A page that is whole: nothing but our elements, no script, nothing outside, links that lead somewhere. */
    private static Document page(String html) throws Exception {
        Document page = Jsoup.parse(html);
        Set<String> ids = new HashSet<>();
        for (Element element : page.getAllElements()) {
            if (!element.normalName().startsWith("#")) {
                assertThat(ELEMENTS).contains(element.normalName());
            }
            assertThat(element.attributes().asList())
                    .allSatisfy(
                            a -> assertThat(a.getKey()).doesNotStartWith("on").isNotIn("style", "src"));
            if (element.hasAttr("id")) {
                assertThat(ids.add(element.id()))
                        .as("id " + element.id() + " is there twice")
                        .isTrue();
            }
        }
        for (Element link : page.select("[href]")) {
            assertThat(link.attr("href")).startsWith("#");
            assertThat(ids).contains(link.attr("href").substring(1));
        }
        for (Element named : page.select("[aria-labelledby]")) {
            assertThat(ids).containsAll(List.of(named.attr("aria-labelledby").split(" ")));
        }
        String policy = page.select("meta[http-equiv=Content-Security-Policy]").attr("content");
        byte[] hash = MessageDigest.getInstance("SHA-256")
                .digest(page.select("style").first().data().getBytes(StandardCharsets.UTF_8));
        assertThat(policy)
                .startsWith("default-src 'none'")
                .contains("'sha256-" + Base64.getEncoder().encodeToString(hash) + "'")
                .doesNotContain("unsafe");
        page.select("table").forEach(t -> assertThat(t.select("caption, thead th[scope=col]"))
                .hasSizeGreaterThan(1));
        return page;
    }

    private static JsonSchema schema() throws Exception {
        try (InputStream in = WorkRecord.class.getResourceAsStream("record.schema.json")) {
            return JsonSchemaFactory.getInstance(SpecVersion.VersionFlag.V202012)
                    .getSchema(new ObjectMapper().readTree(in));
        }
    }

    private static List<String> cells(Element row) {
        return row.select("td").eachText();
    }

    @Test
    void aRunsPageHasAllThatWasCounted() throws Exception {
        Ferry made = must(0, "report", crossing);
        assertThat(made.out()).contains("are equal on both sides, record by record", "report.html");
        Path html = Files.walk(folder.resolve("runs"))
                .filter(f -> f.endsWith("report.html"))
                .findFirst()
                .orElseThrow();
        Document page = page(Files.readString(html));
        assertThat(page.select(".verdict.good").text()).contains("are equal on both sides");
        Element counts = page.select("#counts").first().parent();
        List<String> reading = counts.select("tr").stream()
                .map(ReportTest::cells)
                .filter(c -> !c.isEmpty() && c.get(0).equals("chamber_reading"))
                .findFirst()
                .orElseThrow();
        // at the source, read, in files, in the set, read from it, loaded, in the target
        assertThat(reading.stream().filter("800"::equals)).hasSize(7);
        assertThat(page.select("svg[role=img]")).hasSize(3);
        assertThat(page.select("#files").first().parent().select("td.sum").eachText())
                .isNotEmpty()
                .allMatch(sum -> sum.matches("[0-9a-f]{64}"));
        assertThat(page.select("pre").text()).contains("sha256sum --check manifest-sha256.txt");
        assertThat(page.select("#signatures")).hasSize(1);
        assertThat(page.text()).contains("H2 ", "SQLite ", "Java ");
    }

    @Test
    void theRecordIsWhatItsSchemaSays() throws Exception {
        JsonNode record = new ObjectMapper()
                .readTree(must(0, "report", crossing, "--format", "json").out());
        assertThat(schema().validate(record)).isEmpty();
        assertThat(record.path("kind").asText()).isEqualTo("run");
        assertThat(record.path("steps").findValuesAsText("step")).contains("export", "load", "proof");
        Path kept = folder.resolve("kept.json");
        must(0, "report", crossing, "--to", kept);
        assertThat(must(0, "report", kept, "--to", folder.resolve("kept.html")).out())
                .contains("are equal");
        assertThat(must(2, "report", kept, "--to", folder.resolve("kept.html")).err())
                .contains("--overwrite");
    }

    @Test
    void aTextForTickets() {
        String text = must(0, "report", crossing, "--format", "markdown").out();
        assertThat(text)
                .startsWith("# Run of ")
                .contains("## Counts at every hop", "|---|", "sha256sum --check manifest-sha256.txt");
    }

    private static Path database(String name, String... statements) throws Exception {
        Path file = folder.resolve(name);
        try (Connection connection = DriverManager.getConnection("jdbc:sqlite:" + file);
                Statement statement = connection.createStatement()) {
            for (String sql : statements) {
                statement.execute(sql);
            }
        }
        return file;
    }

    @Test
    void whatComesFromDataIsTextAndNothingElse() throws Exception {
        String evil = "</td><script>alert(1)</script><img src=x onerror=alert(2)>";
        Path one = database("evil1.sqlite", "CREATE TABLE label (no INTEGER PRIMARY KEY, \"<b>note\" TEXT)");
        Path other = database("evil2.sqlite", "CREATE TABLE label (no INTEGER PRIMARY KEY, \"<b>note\" TEXT)");
        for (Path file : List.of(one, other)) {
            try (Connection connection = DriverManager.getConnection("jdbc:sqlite:" + file);
                    PreparedStatement insert = connection.prepareStatement("INSERT INTO label VALUES (?, ?)")) {
                insert.setInt(1, 1);
                insert.setString(2, evil + (file == one ? "" : "\u202Etxt.\u0007|\n# heading"));
                insert.executeUpdate();
            }
        }
        Path record = folder.resolve("evil.json");
        must(1, "reconcile", one, other, "--depth", "rows", "--totals", "--record", record);
        assertThat(schema().validate(new ObjectMapper().readTree(record.toFile())))
                .isEmpty();
        must(1, "report", record);
        Document page = page(Files.readString(folder.resolve("evil.html")));
        assertThat(page.select("#differences").first().parent().text())
                .contains(evil)
                .contains("\\u202etxt.\\u0007|\\n# heading")
                .contains("<b>note");
        assertThat(page.select(".verdict.bad").text()).contains("1 of 1 table differs, in 1 record");
        assertThat(page.select("#totals")).hasSize(1);
        String text = must(1, "report", record, "--format", "markdown").out();
        assertThat(text)
                .contains("\\<script\\>")
                .doesNotContain("\n# heading", "\u202E")
                .doesNotContainPattern("(?<!\\\\)<");
    }

    @Test
    void singlePiecesOfWorkLeaveRecords() throws Exception {
        Path source = database(
                "single.sqlite",
                "CREATE TABLE label (no INTEGER PRIMARY KEY, note TEXT)",
                "INSERT INTO label VALUES (1, 'a'), (2, 'b')");
        Path exported = folder.resolve("exported.json");
        Path set = folder.resolve("single-set");
        must(0, "export", source, set, "--record", exported);
        assertThat(must(2, "export", source, folder.resolve("other"), "--record", exported)
                        .err())
                .contains("a record goes into a new file");
        assertThat(folder.resolve("other")).doesNotExist();
        Ferry report = must(0, "report", exported);
        assertThat(report.out()).contains("2 records of 1 table exported", "weren't compared");
        Path csv = folder.resolve("label.csv");
        Files.writeString(csv, "no,note\n1,x\nnine,y\n3,z\n3,again\n");
        Path loaded = folder.resolve("loaded.json");
        Path rejects = folder.resolve("rejects.csv");
        must(
                1,
                "load",
                csv,
                folder.resolve("into.sqlite"),
                "--type",
                "no=INTEGER",
                "--rejects",
                rejects,
                "--record",
                loaded);
        assertThat(must(
                                2,
                                "load",
                                csv,
                                folder.resolve("tried.sqlite"),
                                "--try",
                                "--record",
                                folder.resolve("tried.json"))
                        .err())
                .contains("--try does nothing");
        must(1, "report", loaded);
        Document page = page(Files.readString(folder.resolve("loaded.html")));
        assertThat(page.select("#rejects").first().parent().text()).contains("nine", rejects.toString());
        assertThat(page.select(".verdict").text()).contains("rejected");
        for (Path record : List.of(exported, loaded)) {
            assertThat(schema().validate(new ObjectMapper().readTree(record.toFile())))
                    .isEmpty();
        }
    }

    private static Optional<Path> chromium() {
        return Stream.of(System.getenv("PATH").split(File.pathSeparator))
                .flatMap(f -> Stream.of("chromium", "chromium-browser").map(n -> Path.of(f, n)))
                .filter(Files::isExecutable)
                .findFirst();
    }

    /** Only where there is a browser: what is asked of it is whether it has anything to complain of. */
    @Test
    void aBrowserTakesThePageWithoutComplaint() throws Exception {
        assumeTrue(chromium().isPresent(), "no browser here");
        Path page = folder.resolve("shown.html");
        must(0, "report", crossing, "--to", page);
        Path said = folder.resolve("browser.txt");
        Process browser = new ProcessBuilder(
                        chromium().orElseThrow().toString(),
                        "--headless",
                        "--no-sandbox",
                        "--disable-gpu",
                        "--no-first-run",
                        "--disable-background-networking",
                        "--disable-component-update",
                        "--disable-sync",
                        "--enable-logging=stderr",
                        "--user-data-dir=" + folder.resolve("profile"),
                        "--dump-dom",
                        page.toUri().toString())
                .redirectErrorStream(true)
                .redirectOutput(said.toFile())
                .start();
        assertThat(browser.waitFor(60, TimeUnit.SECONDS)).isTrue();
        String all = Files.readString(said);
        assertThat(all)
                .contains("Counts at every hop")
                .doesNotContain("CONSOLE")
                .doesNotContain("Refused to");
    }

    @Test
    void twoThousandTablesAreUnderAMegabyte() throws Exception {
        WorkRecord work = LargeRecord.of(2_000, 7);
        String html = ReportWriter.write(work, ReportForm.HTML, work.began());
        assertThat(html.getBytes(StandardCharsets.UTF_8)).hasSizeLessThan(1_000_000);
        Document page = page(html);
        // the one that needs a person stands alone, in front
        Element first = page.select("#counts").first().parent().select("table").first();
        assertThat(first.select("tbody tr")).hasSize(1);
        assertThat(first.text()).contains("SHEET_OF_SPECIMENS_7 ");
        Path record = folder.resolve("large.json");
        work.write(record);
        Ferry told = must(1, "report", record);
        assertThat(told.out()).contains("and 1,999 tables that add up; --all lists them");
        assertThat(told.out().lines().count()).isLessThan(20);
    }
}
