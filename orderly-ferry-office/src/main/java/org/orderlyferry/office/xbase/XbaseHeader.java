package org.orderlyferry.office.xbase;

import java.io.DataInputStream;
import java.io.EOFException;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.CharacterCodingException;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Iterator;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.orderlyferry.format.FileSettings;
import org.orderlyferry.format.FileSource;
import org.orderlyferry.problem.BadValueException;
import org.orderlyferry.problem.MalformedFileException;
import org.orderlyferry.problem.Origin;
import org.orderlyferry.record.text.InvalidValueException;
import org.orderlyferry.record.text.Utf8;

/**
 * What an xBase table says of itself.
 *
 * @param version the first byte, whose bits say which program wrote it and whether there is a memo file
 * @param records how many there are, those that are deleted among them
 * @param length bytes in front of the first record
 * @param recordLength bytes of each record, with the mark in front that says whether it is deleted
 * @param encoding of its texts; where none is told, a text is in UTF-8 if it can be, else in windows-1252
 */
record XbaseHeader(
        int version, long records, int length, int recordLength, Optional<Charset> encoding, List<XbaseField> fields) {

    private static final int SIZE = 32;
    private static final int END = 0x0D;
    private static final int NAME = 11;
    /** Bits of the first byte that tell the header's form; 4 in them stands for one with longer names. */
    private static final int LEVEL = 7;

    private static final int LEVEL_7 = 4;
    private static final int NULLABLE = 2;

    /** Code pages by the byte that stands for them; where there is none, what most such files are in. */
    private static final Map<Integer, String> CODE_PAGES = Map.ofEntries(
            Map.entry(0x01, "IBM437"),
            Map.entry(0x02, "IBM850"),
            Map.entry(0x03, "windows-1252"),
            Map.entry(0x08, "IBM865"),
            Map.entry(0x13, "windows-31j"),
            Map.entry(0x4D, "GBK"),
            Map.entry(0x4E, "x-windows-949"),
            Map.entry(0x4F, "x-windows-950"),
            Map.entry(0x57, "windows-1252"),
            Map.entry(0x58, "windows-1252"),
            Map.entry(0x59, "windows-1252"),
            Map.entry(0x64, "IBM852"),
            Map.entry(0x65, "IBM866"),
            Map.entry(0xC8, "windows-1250"),
            Map.entry(0xC9, "windows-1251"),
            Map.entry(0xCA, "windows-1254"),
            Map.entry(0xCB, "windows-1253"));

    /** The byte that stands for an encoding; 0 where none does. */
    static int codePage(Charset encoding) {
        return CODE_PAGES.entrySet().stream()
                .filter(e -> Charset.forName(e.getValue()).equals(encoding))
                .mapToInt(Map.Entry::getKey)
                .min()
                .orElse(0);
    }

    static XbaseHeader read(FileSource file, FileSettings settings) {
        try (DataInputStream in = new DataInputStream(file.open())) {
            byte[] head = in.readNBytes(SIZE);
            if (head.length < SIZE) {
                throw malformed(file, "is too short for an xBase table");
            }
            if ((head[0] & LEVEL) == LEVEL_7) {
                throw malformed(file, "is a table of level 7, whose header is another one that isn't read here");
            }
            ByteBuffer buffer = ByteBuffer.wrap(head).order(ByteOrder.LITTLE_ENDIAN);
            long records = buffer.getInt(4) & 0xFFFFFFFFL;
            int length = buffer.getShort(8) & 0xFFFF;
            int recordLength = buffer.getShort(10) & 0xFFFF;
            String told = CODE_PAGES.get(head[29] & 0xFF);
            Optional<Charset> encoding =
                    Optional.ofNullable(settings.encoding("encoding", told == null ? null : Charset.forName(told)));
            List<XbaseField> fields = fields(file, in, length, encoding);
            int sum = 1 + fields.stream().mapToInt(XbaseField::length).sum();
            if (sum != recordLength) {
                throw malformed(
                        file,
                        "says that a record has " + recordLength + " bytes, and its fields have " + sum + " together");
            }
            return new XbaseHeader(head[0] & 0xFF, records, length, recordLength, encoding, fields);
        } catch (IOException e) {
            throw malformed(file, "can't be read: " + e.getMessage());
        }
    }

    /** The fields that hold values of the table. */
    List<XbaseField> columns() {
        return fields.stream().filter(f -> f.type() != XbaseField.FLAGS).toList();
    }

    /** The same with other names for its columns. */
    XbaseHeader withNames(List<String> names) {
        List<XbaseField> renamed = new ArrayList<>();
        Iterator<String> name = names.iterator();
        for (XbaseField f : fields) {
            renamed.add(
                    f.type() == XbaseField.FLAGS
                            ? f
                            : new XbaseField(name.next(), f.type(), f.length(), f.decimals(), f.nullable()));
        }
        return new XbaseHeader(version, records, length, recordLength, encoding, renamed);
    }

    private static List<XbaseField> fields(FileSource file, DataInputStream in, int length, Optional<Charset> encoding)
            throws IOException {
        List<XbaseField> fields = new ArrayList<>();
        for (int at = SIZE; at + SIZE <= length; at += SIZE) {
            int first = in.read();
            if (first == END) {
                break;
            }
            byte[] field = new byte[SIZE];
            field[0] = (byte) first;
            try {
                in.readFully(field, 1, SIZE - 1);
            } catch (EOFException e) {
                throw malformed(file, "ends in the middle of its header");
            }
            int end = 0;
            while (end < NAME && field[end] != 0) {
                end++;
            }
            char type = (char) field[11];
            int size = field[16] & 0xFF;
            int decimals = field[17] & 0xFF;
            // of texts, what would be the decimals are the length's higher byte
            boolean text = type == 'C';
            XbaseField read = new XbaseField(
                    name(file, field, end, encoding),
                    type,
                    text ? size + (decimals << 8) : size,
                    text ? 0 : decimals,
                    (field[18] & NULLABLE) != 0);
            if (!read.hasItsLength()) {
                throw malformed(
                        file, "has a field " + read.name() + " of type " + type + " with " + read.length() + " bytes");
            }
            fields.add(read.withName(another(read.name(), fields)));
        }
        if (fields.isEmpty()) {
            throw malformed(file, "has a header without fields");
        }
        return fields;
    }

    /** A name that no field before has, in any case: programs let two fields have the same. */
    private static String another(String name, List<XbaseField> before) {
        String base = name.isEmpty() ? "field " + (before.size() + 1) : name;
        String given = base;
        for (int number = 2; ; number++) {
            String wanted = given;
            if (before.stream().noneMatch(f -> f.name().equalsIgnoreCase(wanted))) {
                return given;
            }
            given = base + " (" + number + ")";
        }
    }

    private static String name(FileSource file, byte[] field, int length, Optional<Charset> encoding) {
        try {
            return text(field, 0, length, encoding).strip();
        } catch (InvalidValueException e) {
            throw malformed(file, "has a field whose name " + e.getMessage());
        }
    }

    /**
     * A text in the file's encoding.
     *
     * @throws InvalidValueException if it has bytes that aren't any in it
     */
    static String text(byte[] bytes, int from, int length, Optional<Charset> encoding) throws InvalidValueException {
        boolean utf8 = Utf8.firstInvalid(bytes, from, from + length) < 0;
        Charset charset = encoding.orElse(utf8 ? StandardCharsets.UTF_8 : Charset.forName("windows-1252"));
        try {
            return charset.newDecoder()
                    .decode(ByteBuffer.wrap(bytes, from, length))
                    .toString();
        } catch (CharacterCodingException e) {
            String shown = new String(bytes, from, length, charset);
            throw new InvalidValueException("isn't valid " + charset.name() + " (" + BadValueException.shown(shown)
                    + "); the setting encoding says what its texts are in");
        }
    }

    /** Whether the file begins as such a table does. */
    static boolean looksLike(byte[] head) {
        if (head.length < SIZE + 1) {
            return false;
        }
        int version = head[0] & 0xFF;
        boolean known = Optional.of(version)
                .filter(List.of(0x02, 0x03, 0x04, 0x05, 0x30, 0x31, 0x32, 0x83, 0x8B, 0x8E, 0xF5)::contains)
                .isPresent();
        int month = head[2];
        int day = head[3];
        return known
                && month >= 0
                && month <= 12
                && day >= 0
                && day <= 31
                && new String(head, SIZE, 1, StandardCharsets.ISO_8859_1).matches("[A-Za-z_]");
    }

    static MalformedFileException malformed(FileSource file, String what) {
        return new MalformedFileException(new Origin("", file.shown(), 0, true), what);
    }
}
