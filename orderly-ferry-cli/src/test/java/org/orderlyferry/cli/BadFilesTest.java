package org.orderlyferry.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.zip.GZIPOutputStream;
import java.util.zip.ZipEntry;
import java.util.zip.ZipOutputStream;
import org.apache.commons.compress.archivers.tar.TarArchiveEntry;
import org.apache.commons.compress.archivers.tar.TarArchiveOutputStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Files that are broken, or made to do harm: each is told with its line, and nothing half-made stays. */
class BadFilesTest {

    @TempDir
    Path folder;

    private Path file(String name, String text) throws Exception {
        return Files.writeString(folder.resolve(name), text);
    }

    /** Converts to JSON lines, which must fail without leaving anything. */
    private String failure(Path from, Object... more) {
        Path to = folder.resolve("out.jsonl");
        Object[] arguments = new Object[3 + more.length];
        arguments[0] = "convert";
        arguments[1] = from;
        arguments[2] = to;
        System.arraycopy(more, 0, arguments, 3, more.length);
        Ferry ferry = Ferry.run(arguments);
        assertThat(ferry.code()).as(ferry.out() + ferry.err()).isIn(2, 3);
        assertThat(ferry.err()).startsWith("ferry: ").doesNotContain("unexpected");
        assertThat(to).doesNotExist();
        assertThat(folder.toFile().list((d, n) -> n.contains("unfinished"))).isEmpty();
        return ferry.err();
    }

    @Test
    void aDocumentTypeThatDoesNoHarmIsRead() throws Exception {
        Path file = file(
                "fine.xml",
                "<!DOCTYPE label PUBLIC \"-//Quillmoor//Label//EN\" \"http://quillmoor.example/label.dtd\" [<!ENTITY herb"
                        + " \"moss\"><!ELEMENT label (row*)>]><label><row><a>&herb; &amp; fern</a><b>2</b></row></label>");
        Ferry ferry = Ferry.run("convert", file, folder.resolve("fine.csv"));
        assertThat(ferry.code()).as(ferry.err()).isZero();
        assertThat(Files.readString(folder.resolve("fine.csv"))).isEqualTo("a,b\r\nmoss & fern,2\r\n");
    }

    @Test
    void xmlEntitiesAreNeverResolved() throws Exception {
        Path secret = file("secret.txt", "m0ss-and-fern");
        Path outside = file(
                "outside.xml",
                "<!DOCTYPE label [<!ENTITY e SYSTEM \"" + secret.toUri() + "\">]><label><row><a>&e;</a></row></label>");
        assertThat(failure(outside)).contains("line 1", "in other files").doesNotContain("m0ss");
        Path subset = file(
                "subset.xml", "<!DOCTYPE label SYSTEM \"" + secret.toUri() + "\"><label><row><a>&e;</a></row></label>");
        assertThat(failure(subset)).contains("isn't XML").doesNotContain("m0ss");
        StringBuilder nested = new StringBuilder("<!DOCTYPE label [<!ENTITY a0 \"moss\">");
        for (int i = 1; i < 30; i++) {
            nested.append("<!ENTITY a")
                    .append(i)
                    .append(" \"")
                    .append(("&a" + (i - 1) + ";").repeat(10))
                    .append("\">");
        }
        assertThat(failure(file("bomb.xml", nested + "]><label><row><a>&a29;</a></row></label>")))
                .contains("isn't XML");
        assertThat(failure(file(
                        "wide.xml",
                        "<!DOCTYPE label [<!ENTITY a \"" + "moss".repeat(5_000)
                                + "\">]><label><row><a>&a;</a></row></label>")))
                .contains("made to do harm");
        assertThat(failure(file("cut.xml", "<label><row><a>1</a></row><row><a>2")))
                .contains("isn't XML");
        assertThat(failure(file("deep.xml", "<label><row>" + "<a>".repeat(10_000))))
                .contains("line 1");
    }

    @Test
    void jsonThatIsTooDeepOrCutOffIsToldWithItsLine() throws Exception {
        assertThat(failure(file("deep.json", "[{\"a\":" + "[".repeat(10_000)))).contains("line 1", "nesting depth");
        assertThat(failure(file("cut.json", "[{\"a\":1},\n{\"a\":2"))).contains("line 2", "isn't JSON");
        assertThat(failure(file("behind.json", "[{\"a\":1}]\n[2]"))).contains("line 2", "follows behind the last");
        assertThat(failure(file("numbers.json", "[1,2]"))).contains("a record is an object");
        assertThat(failure(file("twice.json", "[{\"a\":1,\"a\":2}]"))).contains("a stands there twice");
        assertThat(failure(file("empty.json", "[]"))).contains("has no records");
    }

    @Test
    void whatExpandsWithoutEndIsNotReadOn() throws Exception {
        Path bomb = folder.resolve("bomb.csv.gz");
        try (OutputStream out = new GZIPOutputStream(Files.newOutputStream(bomb))) {
            out.write("a\n".getBytes(StandardCharsets.US_ASCII));
            byte[] zeros = "0".repeat(1_000_000).getBytes(StandardCharsets.US_ASCII);
            byte[] line = new byte[1_000_000];
            System.arraycopy(zeros, 0, line, 0, line.length);
            line[line.length - 1] = '\n';
            for (int i = 0; i < 300; i++) {
                out.write(line);
            }
        }
        assertThat(failure(bomb)).contains("expands to more than 500 times its size");
    }

    @Test
    void aBundleCannotWriteOutsideOfItsFolder() throws Exception {
        Path evil = folder.resolve("evil.tar.gz");
        try (TarArchiveOutputStream tar =
                new TarArchiveOutputStream(new GZIPOutputStream(Files.newOutputStream(evil)))) {
            TarArchiveEntry entry = new TarArchiveEntry("../escaped.txt");
            entry.setSize(4);
            tar.putArchiveEntry(entry);
            tar.write("moss".getBytes(StandardCharsets.US_ASCII));
            tar.closeArchiveEntry();
        }
        assertThat(failure(evil)).contains("../escaped.txt would be written outside");
        Path plain = folder.resolve("plain.zip");
        try (ZipOutputStream zip = new ZipOutputStream(Files.newOutputStream(plain))) {
            zip.putNextEntry(new ZipEntry("moss.txt"));
        }
        assertThat(failure(plain)).contains("no export set is in it");
    }

    @Test
    void aCutOffSpreadsheetIsToldOf() throws Exception {
        Path csv = file("label.csv", "a,b\n1,moss\n2,fern\n");
        Path whole = folder.resolve("label.xlsx");
        assertThat(Ferry.run("convert", csv, whole).code()).isZero();
        byte[] bytes = Files.readAllBytes(whole);
        Path cut = folder.resolve("cut.xlsx");
        Files.write(cut, java.util.Arrays.copyOf(bytes, bytes.length - 500));
        assertThat(failure(cut)).contains("can't be read as a spreadsheet");
    }

    @Test
    void anXbaseTableTellsOfDeletedRecordsAndOfAHeaderThatDisagrees() throws Exception {
        Path csv = file("label.csv", "a,b\n1,moss\n2,fern\n3,lichen\n");
        Path whole = folder.resolve("label.dbf");
        assertThat(Ferry.run("convert", csv, whole).code()).isZero();
        Files.delete(folder.resolve("label.dbf-metadata.json"));
        byte[] bytes = Files.readAllBytes(whole);
        int header = bytes[8] & 0xFF | (bytes[9] & 0xFF) << 8;
        int record = bytes[10] & 0xFF | (bytes[11] & 0xFF) << 8;
        byte[] deleted = bytes.clone();
        deleted[header + record] = '*';
        Files.write(whole, deleted);
        assertThat(Ferry.run("look", whole).out())
                .contains("2 records", "BIGINT", "1 records are marked as deleted, and were passed over");
        byte[] more = bytes.clone();
        more[4] = 7;
        assertThat(failure(Files.write(folder.resolve("more.dbf"), more))).contains("3 records, and its header says 7");
        byte[] fewer = bytes.clone();
        fewer[4] = 2;
        assertThat(failure(Files.write(folder.resolve("fewer.dbf"), fewer)))
                .contains("goes on behind the 2 records that its header says");
        assertThat(failure(Files.write(
                        folder.resolve("cut.dbf"), java.util.Arrays.copyOf(bytes, header + record + record / 2))))
                .contains("ends in the middle of record 2");
        byte[] wrong = bytes.clone();
        wrong[10] = (byte) (record + 1);
        assertThat(failure(Files.write(folder.resolve("wrong.dbf"), wrong))).contains("its fields have");
    }

    @Test
    void aHugeLineGoesThroughOrIsToldOf() throws Exception {
        Path huge = folder.resolve("huge.csv");
        try (OutputStream out = Files.newOutputStream(huge)) {
            out.write("a,b\n1,\"".getBytes(StandardCharsets.US_ASCII));
            byte[] piece = "moss ".repeat(200_000).getBytes(StandardCharsets.US_ASCII);
            for (int i = 0; i < 30; i++) {
                out.write(piece);
            }
            out.write("\"\n2,fern\n".getBytes(StandardCharsets.US_ASCII));
        }
        Path to = folder.resolve("huge.jsonl");
        assertThat(Ferry.run("convert", huge, to).code()).isZero();
        assertThat(Files.size(to)).isGreaterThan(30_000_000);
    }

    @Test
    void badRecordsAmongManyAreKeptWithTheirReasonAndTheCountHolds() throws Exception {
        StringBuilder csv = new StringBuilder("id,day\n");
        for (int i = 1; i <= 1_000; i++) {
            csv.append(i).append(i == 500 ? "\n" : i == 700 ? ",2031-02-30\n" : ",2031-04-09\n");
        }
        Path from = file("many.csv", csv.toString());
        file(
                "many.csv-metadata.json",
                "{\"tableSchema\":{\"columns\":[{\"name\":\"id\",\"datatype\":\"int\"},"
                        + "{\"name\":\"day\",\"datatype\":\"date\"}]}}");
        assertThat(failure(from)).contains("line 501", "1 value");
        Path rejects = folder.resolve("rejects.csv");
        Path to = folder.resolve("many.jsonl");
        Ferry ferry = Ferry.run("convert", from, to, "--rejects", rejects);
        assertThat(ferry.code()).isEqualTo(1);
        assertThat(ferry.out()).contains("1,000 read = 998 written + 2 rejected");
        assertThat(Files.readAllLines(to)).hasSize(998);
        assertThat(Files.readString(rejects)).contains(",501,", ",701,day,2031-02-30,");
        Ferry load =
                Ferry.run("load", from, folder.resolve("many.sqlite"), "--rejects", rejects, "--rejects-allowed", "2");
        assertThat(load.code()).as(load.err()).isZero();
        assertThat(load.out()).contains("1,000 read = 998 written + 2 rejected");
    }

    /** A quote in a wrong place costs its record, and what stands between proper quotes is never taken for records. */
    @ParameterizedTest
    @ValueSource(strings = {",", "|", "::"})
    void aStrayQuoteCostsItsRecordOnly(String delimiter) throws Exception {
        Path from = file(
                "stray.csv",
                """
                code,name,note
                1,Sorbus,~said ~~so~~~
                2,~big~ tree,n
                3,~x~y~z,n
                4,~x~y,~two
                5,no,record
                lines~
                6,~~,n
                7,~last~!,n
                """
                        .replace('~', '"')
                        .replace(",", delimiter));
        Path rejects = folder.resolve("rejects.csv");
        Path to = folder.resolve("stray.jsonl");
        Ferry stopped = Ferry.run("convert", from, to, "--from-setting", "delimiter=" + delimiter);
        assertThat(stopped.code()).isEqualTo(3);
        assertThat(stopped.err()).contains("line 3", "quote", "give no quote");
        assertThat(to).doesNotExist();
        Ferry ferry = Ferry.run("convert", from, to, "--from-setting", "delimiter=" + delimiter, "--rejects", rejects);
        assertThat(ferry.out()).as(ferry.err()).contains("6 read = 2 written + 4 rejected");
        assertThat(Files.readAllLines(to))
                .containsExactly(
                        "{\"code\":1,\"name\":\"Sorbus\",\"note\":\"said \\\"so\\\"\"}",
                        "{\"code\":6,\"name\":\"\",\"note\":\"n\"}");
        assertThat(Files.readString(rejects)).contains(",3,", ",4,", ",5,", ",9,");
    }

    @ParameterizedTest
    @ValueSource(strings = {"csv", "txt", "jsonl", "json", "xml", "xlsx"})
    void manyBadRecordsOneAfterTheOtherAreNotTakenForTheEnd(String ending) throws Exception {
        StringBuilder csv = new StringBuilder("note,scan\n");
        for (int i = 1; i <= 20_003; i++) {
            csv.append("a label with nothing to be seen on it,").append(i <= 20_000 ? "!!!\n" : "bW9zcw==\n");
        }
        Path from = folder.resolve("label." + ending);
        Path plain = file("plain.csv", csv.toString());
        if (ending.equals("csv")) {
            Files.copy(plain, from);
        } else {
            String setting = ending.equals("txt") ? "delimiter=||" : "";
            Ferry made = setting.isEmpty()
                    ? Ferry.run("convert", plain, from, "--as", "label")
                    : Ferry.run("convert", plain, from, "--as", "label", "--to-setting", setting);
            assertThat(made.code()).as(made.err()).isZero();
        }
        Path definitions = file(
                "binary-metadata.json",
                "{\"url\":\"label\",\"tableSchema\":{\"columns\":[{\"name\":\"note\"},"
                        + "{\"name\":\"scan\",\"datatype\":\"base64Binary\"}]}}");
        Path rejects = folder.resolve("rejects.csv");
        Path to = folder.resolve("out.jsonl");
        Ferry ferry = ending.equals("txt")
                ? Ferry.run(
                        "convert",
                        from,
                        to,
                        "--definitions",
                        definitions,
                        "--rejects",
                        rejects,
                        "--from-setting",
                        "delimiter=||")
                : Ferry.run("convert", from, to, "--definitions", definitions, "--rejects", rejects);
        assertThat(ferry.out()).as(ferry.err()).contains("20,003 read = 3 written + 20,000 rejected");
        assertThat(Files.readAllLines(to)).hasSize(3);
    }

    @Test
    void aDefinitionOfOtherDataIsRefused() throws Exception {
        Path from = file("label.json", "[{\"a\":1}]");
        file("label.schema.json", "{\"properties\":{\"b\":{\"type\":\"integer\"}}}");
        assertThat(failure(from)).contains("a field a that isn't in the definition");
        Path csv = file("other.csv", "a,b\n1,2\n");
        file("other.csv-metadata.json", "{\"tableSchema\":{\"columns\":[{\"name\":\"c\"}]}}");
        assertThat(failure(csv)).contains("missing in the file: c", "not in the definition: a, b");
    }

    @Test
    void aNumberOfAMilliardDigitsIsNotWrittenOut() throws Exception {
        Path csv = file("bomb.csv", "id,size\n1,1e999999999\n2,-1E-999999999\n3,7\n");
        Path rejects = folder.resolve("rejects.csv");
        for (String type : new String[] {"decimal", "int", "long"}) {
            file(
                    "bomb.csv-metadata.json",
                    "{\"tableSchema\":{\"columns\":[{\"name\":\"id\"},{\"name\":\"size\",\"datatype\":\"" + type
                            + "\"}]}}");
            Ferry ferry = Ferry.run("convert", csv, folder.resolve("bomb.jsonl"), "--overwrite", "--rejects", rejects);
            assertThat(ferry.out()).as(ferry.err()).contains("3 read = 1 written + 2 rejected");
            assertThat(Files.readString(rejects)).contains("has more than 150000 digits when it is written out");
        }
        Path json = file("nested.json", "[{\"id\":1,\"in\":{\"size\":1e999999999}},{\"id\":2,\"in\":{\"size\":7.50}}]");
        Ferry apart = Ferry.run(
                "convert",
                json,
                folder.resolve("apart.csv"),
                "--from-setting",
                "apart=true",
                "--type",
                "in.size=DECIMAL",
                "--rejects",
                rejects);
        assertThat(apart.out()).as(apart.err()).contains("2 read = 1 written + 1 rejected");
    }

    @Test
    void halfASurrogatePairIsNoQuestionMark() throws Exception {
        Path json = file("half.jsonl", "{\"id\":1,\"note\":\"a\\ud800b\"}\n{\"id\":2,\"note\":\"\\ud83c\\udf3f\"}\n");
        assertThat(failure(json, "--overwrite")).contains("line 1", "column note", "half of a surrogate pair");
        for (boolean apart : new boolean[] {false, true}) {
            Path to = folder.resolve(apart + ".csv");
            Ferry ferry = Ferry.run(
                    "convert",
                    json,
                    to,
                    "--from-setting",
                    "apart=" + apart,
                    "--rejects",
                    folder.resolve("rejects.csv"));
            assertThat(ferry.out()).as(ferry.err()).contains("2 read = 1 written + 1 rejected");
            assertThat(Files.readString(to)).contains("\uD83C\uDF3F");
        }
    }

    @Test
    void longQuotedTextsAreWrittenWholeInOtherEncodings() throws Exception {
        String note = "\u00e4\u20ac\"\uD83C\uDF3F".repeat(40_000);
        Path json = file("long.jsonl", "{\"id\":1,\"note\":\"" + note.replace("\"", "\\\"") + "\"}\n");
        Path utf16 = folder.resolve("long.csv");
        assertThat(Ferry.run("convert", json, utf16, "--to-setting", "encoding=UTF-16")
                        .code())
                .isZero();
        assertThat(Files.readString(utf16, StandardCharsets.UTF_16)).contains(note.replace("\"", "\"\""));
        Path back = folder.resolve("back.jsonl");
        assertThat(Ferry.run("convert", utf16, back).code()).isZero();
        assertThat(Files.readString(back)).isEqualTo(Files.readString(json));
    }
}
