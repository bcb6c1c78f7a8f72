package org.orderlyferry.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.ByteArrayOutputStream;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Tables of other programs, byte for byte as their kinds of header and field say. */
@Tag("everywhere")
class XbaseTest {

    private static final int NULLABLE = 2;
    private static final int SYSTEM = 5;

    @TempDir
    Path folder;

    private final ByteArrayOutputStream fields = new ByteArrayOutputStream();
    private final ByteArrayOutputStream records = new ByteArrayOutputStream();
    private int recordLength = 1;
    private int count;

    private void field(String name, char type, int length, int decimals, int flags) {
        ByteBuffer field = ByteBuffer.allocate(32);
        field.put(0, name.getBytes(StandardCharsets.US_ASCII));
        field.put(11, (byte) type)
                .put(16, (byte) length)
                .put(17, (byte) decimals)
                .put(18, (byte) flags);
        fields.writeBytes(field.array());
        recordLength += length;
    }

    private void record(byte[]... values) {
        records.write(' ');
        for (byte[] value : values) {
            records.writeBytes(value);
        }
        count++;
    }

    private Path file(String name, int version, int codePage) throws Exception {
        ByteBuffer header = ByteBuffer.allocate(32).order(ByteOrder.LITTLE_ENDIAN);
        header.put(0, (byte) version)
                .put(1, (byte) 131)
                .put(2, (byte) 4)
                .put(3, (byte) 9)
                .put(29, (byte) codePage);
        header.putInt(4, count).putShort(8, (short) (32 + fields.size() + 1)).putShort(10, (short) recordLength);
        ByteArrayOutputStream file = new ByteArrayOutputStream();
        file.writeBytes(header.array());
        file.writeBytes(fields.toByteArray());
        file.write(0x0D);
        file.writeBytes(records.toByteArray());
        file.write(0x1A);
        return Files.write(folder.resolve(name), file.toByteArray());
    }

    private static byte[] text(String text) {
        return text.getBytes(StandardCharsets.ISO_8859_1);
    }

    private static byte[] number(long value, int bytes) {
        ByteBuffer buffer =
                ByteBuffer.allocate(8).order(ByteOrder.LITTLE_ENDIAN).putLong(value);
        return java.util.Arrays.copyOf(buffer.array(), bytes);
    }

    private String converted(Path file, Object... more) throws Exception {
        Path to = folder.resolve("out.jsonl");
        Object[] arguments = new Object[4 + more.length];
        System.arraycopy(new Object[] {"convert", file, to, "--overwrite"}, 0, arguments, 0, 4);
        System.arraycopy(more, 0, arguments, 4, more.length);
        Ferry ferry = Ferry.run(arguments);
        return ferry.code() == 0 ? Files.readString(to) : ferry.out() + ferry.err();
    }

    @Test
    void fieldsOfLaterKindsAndTheirNullsAreRead() throws Exception {
        field("no", 'I', 4, 0, 0);
        field("name", 'V', 6, 0, NULLABLE);
        field("raw", 'Q', 3, 0, 0);
        field("price", 'Y', 8, 4, NULLABLE);
        field("at", 'T', 8, 0, 0);
        field("ratio", 'B', 8, 2, 0);
        field("_NullFlags", '0', 1, 0, SYSTEM);
        // the bits: the length of name, its null, the length of raw, the null of price
        byte[] half = ByteBuffer.allocate(8)
                .order(ByteOrder.LITTLE_ENDIAN)
                .putDouble(0.5)
                .array();
        byte[] noon = ByteBuffer.allocate(8)
                .order(ByteOrder.LITTLE_ENDIAN)
                .putInt(2_462_966)
                .putInt(43_200_250)
                .array();
        record(number(-7, 4), text("moss \4"), text("abc"), number(12_500, 8), noon, half, number(1, 1));
        record(number(8, 4), text("lichen"), text("a\0\1"), number(0, 8), number(0, 8), half, number(4 + 8, 1));
        record(number(9, 4), text("\0\0\0\0\0\0"), text("abc"), number(-1, 8), noon, half, number(2, 1));
        assertThat(converted(file("kinds.dbf", 0x32, 0x03)))
                .isEqualTo(
                        """
                        {"no":-7,"name":"moss","raw":"YWJj","price":1.2500,"at":"2031-04-09T12:00:00.25","ratio":0.5}
                        {"no":8,"name":"lichen","raw":"YQ==","price":null,"at":null,"ratio":0.5}
                        {"no":9,"name":null,"raw":"YWJj","price":-0.0001,"at":"2031-04-09T12:00:00.25","ratio":0.5}
                        """);
    }

    @Test
    void bytesThatTheCodePageDoesNotHaveAreNoQuestionMarks() throws Exception {
        field("name", 'C', 5, 0, 0);
        record(text("Wei\u00dfe"));
        record(text("a\u0081b  "));
        Path file = file("page.dbf", 0x03, 0x03);
        assertThat(converted(file)).contains("line 2", "column name", "isn't valid windows-1252");
        assertThat(converted(file, "--from-setting", "encoding=ISO-8859-1")).contains("Weiße", "a\u0081b");
        assertThat(converted(file, "--rejects", folder.resolve("rejects.csv")))
                .contains("2 read = 1 written + 1 rejected");
    }

    @Test
    void headersOfOtherKindsAreRefused() throws Exception {
        field("no", 'I', 3, 0, 0);
        record(number(1, 3));
        assertThat(converted(file("short.dbf", 0x30, 0))).contains("a field no of type I with 3 bytes");
        assertThat(converted(file("seven.dbf", 0x04, 0))).contains("level 7");
    }

    @Test
    void numbersAndMomentsThatAreNoneAreRejected() throws Exception {
        field("size", 'N', 12, 0, 0);
        field("at", 'T', 8, 0, 0);
        record(text("1e9999999999".substring(0, 12)), number(0, 8));
        record(text("************"), number(0, 8));
        record(text("          12"), number(1L << 32 | 7L, 8));
        record(text("          12"), number(-1, 8));
        assertThat(converted(file("none.dbf", 0x30, 0x03), "--rejects", folder.resolve("rejects.csv")))
                .contains("4 read = 1 written + 3 rejected");
        assertThat(Files.readString(folder.resolve("rejects.csv")))
                .contains("was too large for its field", "is no number", "no day of the calendar");
    }

    @Test
    void aFileSaysItsCodePageAndIsRefusedWhereItCannotBe() throws Exception {
        Path json = Files.writeString(folder.resolve("label.jsonl"), "{\"name\":\"Зимолюбка\"}\n");
        Path dbf = folder.resolve("label.dbf");
        assertThat(Ferry.run("convert", json, dbf, "--to-setting", "encoding=windows-1251")
                        .code())
                .isZero();
        Files.delete(folder.resolve("label.dbf-metadata.json"));
        assertThat(converted(dbf)).contains("Зимолюбка");
        Path ascii = Files.writeString(folder.resolve("plain.jsonl"), "{\"name\":\"moss\"}\n");
        assertThat(Ferry.run("convert", ascii, folder.resolve("plain.dbf"), "--to-setting", "encoding=ISO-8859-15")
                        .out())
                .contains("no mark for the encoding ISO-8859-15");
        StringBuilder wide = new StringBuilder("{\"c0\":\"x\"");
        for (int i = 1; i < 300; i++) {
            wide.append(",\"c").append(i).append("\":\"x\"");
        }
        Path many = Files.writeString(folder.resolve("many.jsonl"), wide + "}\n");
        assertThat(Ferry.run("convert", many, folder.resolve("many.dbf")).err()).contains("at most 255 fields");
    }

    @Test
    void aNumberIsWhateverFitsItsField() throws Exception {
        field("width", 'N', 8, 2, 0);
        field("count", 'N', 4, 0, 0);
        field("lost", 'N', 3, 0, 0);
        field("WIDTH", 'C', 4, 0, 0);
        record(text("12345678"), text(" 1.5"), text("  7"), text("moss"));
        record(text("0.123456"), text("  12"), text("***"), text("fern"));
        Path file = file("odd.names.dbf", 3, 3);
        Ferry look = Ferry.run("look", file);
        assertThat(look.out())
                .contains("DECIMAL(14,6)", "DECIMAL(3,1)", "WIDTH (2)")
                .contains("holds other numbers");
        assertThat(look.out()).contains("1 record and 1 more that can't be taken");
        assertThat(converted(file, "--from-setting", "errors=null").lines())
                .containsExactly(
                        "{\"width\":12345678.000000,\"count\":1.5,\"lost\":7,\"WIDTH (2)\":\"moss\"}",
                        "{\"width\":0.123456,\"count\":12.0,\"lost\":null,\"WIDTH (2)\":\"fern\"}");
    }

    @Test
    void aMemoFileOfATableWithPointsInItsNameIsFoundAgain() throws Exception {
        Path csv = Files.writeString(folder.resolve("bed.no.7.csv"), "n,t\r\n1," + "moss ".repeat(80) + "x\r\n");
        Path dbf = folder.resolve("bed.no.7.dbf");
        assertThat(Ferry.run("convert", csv, dbf).code()).isZero();
        assertThat(converted(dbf)).contains("moss moss");
        Path set = folder.resolve("set");
        Ferry convert = Ferry.run("convert", csv, set, "--to-format", "dbf");
        assertThat(convert.code()).as(convert.err()).isZero();
        assertThat(converted(set)).contains("moss moss");
    }

    @Test
    void valuesMayBeFilledUpWithZeros() throws Exception {
        field("no", 'N', 6, 2, 0);
        field("sown", 'D', 10, 0, 0);
        field("dry", 'L', 1, 0, 0);
        field("name", 'C', 6, 0, 0);
        record(text("1.50\0\0"), text("20310409\0\0"), text("T"), text("moss\0\0"));
        record(text("\0\0\0\0\0\0"), text("  20310410"), text("\0"), text("\0\0\0\0\0\0"));
        record(text("2\0\0\0\0x"), text("\0".repeat(10)), text("F"), text("fern  "));
        Path file = file("zeros.dbf", 3, 3);
        Path rejects = folder.resolve("rejects.csv");
        assertThat(converted(file, "--rejects", rejects)).contains("1 record rejected");
        assertThat(Files.readAllLines(folder.resolve("out.jsonl")))
                .containsExactly(
                        "{\"no\":1.50,\"sown\":\"2031-04-09\",\"dry\":true,\"name\":\"moss\"}",
                        "{\"no\":null,\"sown\":\"2031-04-10\",\"dry\":null,\"name\":null}");
        assertThat(Files.readString(rejects)).contains(",3,no,", "is no number");
    }

    /** What was assumed is said; where nothing had to be, nothing is. */
    @Test
    void anEncodingThatNobodyHasToldIsNamed() throws Exception {
        field("name", 'C', 8, 0, 0);
        record(text("moss    "));
        assertThat(Ferry.run("look", file("plain.dbf", 3, 0)).out()).doesNotContain("encoding");
        record(text("cr\u00EApe   "));
        record("f\u00EAte   ".getBytes(StandardCharsets.UTF_8));
        Path file = file("assumed.dbf", 3, 0);
        assertThat(Ferry.run("look", file).out())
                .contains(
                        "1 with more than ASCII was taken for UTF-8",
                        "1 with more than ASCII was taken for windows-1252");
        assertThat(converted(file)).contains("cr\u00EApe", "f\u00EAte");
        assertThat(Ferry.run("look", file("marked.dbf", 3, 3)).out()).doesNotContain("encoding");
    }
}
