package org.orderlyferry.format;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.atomic.AtomicLong;
import net.jqwik.api.Arbitraries;
import net.jqwik.api.Arbitrary;
import net.jqwik.api.Combinators;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.Provide;
import org.apache.commons.io.input.ProxyInputStream;
import org.junit.jupiter.api.Test;
import org.orderlyferry.format.xml.XmlFormat;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.problem.FerryException;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordReader;
import org.orderlyferry.testkit.doubles.BytesSource;
import org.orderlyferry.testkit.folder.OneTry;

/** A table of an XML document that is read alone gives the same records, on the same lines, as out of the whole document. */
class TablesOfDocumentsTest {

    private static final List<String> NAMES = List.of("bed", "label", "p:shelf", "caf\u00E9");

    /** What a place makes of a file on the disk: something of it may be kept, and it can be read from anywhere on. */
    private static final class Kept extends ForwardingSource {

        private final Path path;
        private final OpenedFiles opened = new OpenedFiles();
        private final AtomicLong read = new AtomicLong();

        Kept(Path path) throws IOException {
            super(new BytesSource("book.xml", Files.readAllBytes(path)));
            this.path = path;
        }

        @Override
        public Optional<Path> seekable() {
            return Optional.of(path);
        }

        @Override
        public OpenedFiles opened() {
            return opened;
        }

        @Override
        public InputStream open() throws IOException {
            return new ProxyInputStream(super.open()) {
                @Override
                protected void afterRead(int bytes) {
                    read.addAndGet(Math.max(0, bytes));
                }
            };
        }
    }

    private static TableDefinition table(String name) {
        return TableDefinition.named(name.substring(name.indexOf(':') + 1))
                .column("id", LogicalType.CLOB)
                .column("text", LogicalType.XML)
                .build();
    }

    /** Records with their lines, what was rejected, and what ended it. */
    private static List<String> records(FileSource file, String name) {
        List<String> found = new ArrayList<>();
        RecordBatch batch = new RecordBatch();
        TableDefinition table = table(name);
        try (RecordReader reader = new XmlFormat()
                .read(
                        file,
                        table,
                        table.columnNames(),
                        FileSettings.NONE,
                        e -> found.add("rejected: " + e.getMessage()))) {
            while (reader.read(batch)) {
                for (int row = 0; row < batch.rows(); row++) {
                    found.add(batch.origin(row).line() + " " + batch.isNull(row, 1) + " " + batch.text(row, 0) + " "
                            + (batch.isNull(row, 1) ? "" : batch.text(row, 1)));
                }
            }
        } catch (FerryException e) {
            found.add(e.getClass().getSimpleName());
        }
        return found;
    }

    @Provide
    Arbitrary<String> rows() {
        Arbitrary<String> value = Arbitraries.of(
                "moss",
                "",
                "cr\u00EApe\r\n",
                "\u685C",
                "\uD83C\uDF3F",
                "&lt;a&gt;",
                "<![CDATA[</bed>]]>",
                "<b>x</b>",
                "<!-- </bed> \uD83C\uDF3F -->",
                "&#127807;",
                "<?note <bed>?>");
        Arbitrary<String> row = Combinators.combine(
                        Arbitraries.integers().between(0, 99),
                        value,
                        Arbitraries.integers().between(0, 9))
                .as((id, text, odd) -> odd == 0
                        ? "<row><id>" + id + "</id><other/></row>"
                        : odd == 1
                                ? "<row><id>" + id + "</id></row>\r\n"
                                : "<row><id>" + id + "</id><text>" + text + "</text></row>");
        return row.list().ofMaxSize(8).map(rows -> String.join("\n", rows));
    }

    @Provide
    Arbitrary<String> tables() {
        Arbitrary<String> between = Arbitraries.of("", "\n", "\r\n", "<!-- \u685C -->", "<?a \uD83C\uDF3F?>\r\n");
        Arbitrary<String> one = Combinators.combine(Arbitraries.of(NAMES), rows(), between)
                .as((name, rows, before) ->
                        before + (rows.isEmpty() ? "<" + name + "/>" : "<" + name + ">" + rows + "</" + name + ">"));
        return one.list().ofMaxSize(7).map(all -> String.join("", all));
    }

    private static String document(String tables, String encoding, String type) {
        return "<?xml version='1.0' encoding='" + encoding + "'?>\r\n" + type
                + "<book xmlns:p='urn:p&amp;\"'><first><row><id>1</id></row></first>" + tables + "</book>\n";
    }

    private static void mustBeAlike(byte[] document) throws IOException {
        try (OneTry folder = OneTry.begin()) {
            Path path = Files.write(folder.path().resolve("book.xml"), document);
            Kept kept = new Kept(path);
            for (String name : NAMES) {
                assertThat(records(kept, name)).isEqualTo(records(new BytesSource("book.xml", document), name));
            }
        }
    }

    @Property(tries = 300)
    void areReadAlone(@ForAll("tables") String tables) throws IOException {
        mustBeAlike(document(tables, "UTF-8", "").getBytes(StandardCharsets.UTF_8));
    }

    @Property(tries = 60)
    void whateverTheyAreWrittenIn(@ForAll("tables") String tables) throws IOException {
        for (String encoding : List.of("UTF-16", "UTF-16LE")) {
            mustBeAlike(document(tables, encoding, "").getBytes(Charset.forName(encoding)));
        }
        mustBeAlike(("\uFEFF" + document(tables, "UTF-8", "")).getBytes(StandardCharsets.UTF_8));
        mustBeAlike(document(tables.replace("moss", "&leaf;"), "UTF-8", "<!DOCTYPE book [<!ENTITY leaf 'fern'>]>")
                .getBytes(StandardCharsets.UTF_8));
    }

    @Property(tries = 60)
    void asFarAsABrokenDocumentIsOne(@ForAll("tables") String tables) throws IOException {
        byte[] whole = document(tables, "UTF-8", "").getBytes(StandardCharsets.UTF_8);
        byte[] cut = java.util.Arrays.copyOf(whole, whole.length - 6);
        try (OneTry folder = OneTry.begin()) {
            Kept kept = new Kept(Files.write(folder.path().resolve("book.xml"), cut));
            for (String name : NAMES) {
                assertThat(records(kept, name)).containsExactly("MalformedFileException");
            }
        }
    }

    /** What it is for: a document of many tables isn't read from one end to the other for each of them. */
    @Test
    void withoutTheOthers() throws IOException {
        StringBuilder tables = new StringBuilder();
        for (int i = 0; i < 200; i++) {
            tables.append("<t").append(i).append('>');
            tables.append(("<row><id>" + i + "</id><text>\u685C</text></row>\n").repeat(100));
            tables.append("</t").append(i).append('>');
        }
        byte[] document = document(tables.toString(), "UTF-8", "").getBytes(StandardCharsets.UTF_8);
        try (OneTry folder = OneTry.begin()) {
            Kept kept = new Kept(Files.write(folder.path().resolve("book.xml"), document));
            for (int i = 0; i < 200; i++) {
                String id = " false " + i + " \u685C";
                assertThat(records(kept, "t" + i)).hasSize(100).allMatch(r -> r.endsWith(id));
            }
            // once to look at it, twice to turn what the parser tells into bytes, and its beginning for each table
            assertThat(kept.read.get()).isLessThan(20L * document.length);
        }
    }
}
