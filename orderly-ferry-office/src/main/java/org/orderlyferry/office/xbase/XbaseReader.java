package org.orderlyferry.office.xbase;

import java.io.BufferedInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.math.BigDecimal;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.time.DateTimeException;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.time.temporal.JulianFields;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.orderlyferry.format.FileSettings;
import org.orderlyferry.format.FileSource;
import org.orderlyferry.io.Closing;
import org.orderlyferry.model.Finding;
import org.orderlyferry.model.FindingCode;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.problem.BadValueException;
import org.orderlyferry.problem.MalformedFileException;
import org.orderlyferry.problem.Origin;
import org.orderlyferry.problem.PlaceException;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordReader;
import org.orderlyferry.record.Rejects;
import org.orderlyferry.record.text.ExactNumber;
import org.orderlyferry.record.text.InvalidValueException;
import org.orderlyferry.record.text.JavaValues;

/** Reads an xBase table's records; those that are marked as deleted are passed over, and counted. */
final class XbaseReader implements RecordReader {

    private static final int END = 0x1A;

    private final FileSource file;
    private final XbaseHeader header;
    private final TableDefinition table;
    private final int[] places;
    private final int[] offsets;
    private final NullFlags flags;
    private final InputStream in;
    private final Optional<MemoFile> memos;
    private final Rejects rejects;
    private final boolean errorsAreNull;
    private final byte[] record;
    private long number;
    private final UnmarkedTexts unmarked;
    private long deleted;
    private boolean ended;

    XbaseReader(FileSource file, XbaseHeader header, TableDefinition table, FileSettings settings, Rejects rejects) {
        this.errorsAreNull = settings.text("errors", "reject").equals("null");
        this.file = file;
        this.header = header;
        this.table = table;
        this.rejects = rejects;
        this.unmarked = new UnmarkedTexts(header.encoding());
        this.record = new byte[header.recordLength()];
        List<String> names = header.fields().stream().map(XbaseField::name).toList();
        this.places = table.columnNames().stream().mapToInt(names::indexOf).toArray();
        this.offsets = new int[names.size()];
        int at = 1;
        for (int i = 0; i < offsets.length; i++) {
            offsets[i] = at;
            at += header.fields().get(i).length();
        }
        this.flags = new NullFlags(header.fields(), offsets);
        this.memos = MemoFile.beside(file);
        try {
            this.in = behindHeader();
        } catch (RuntimeException e) {
            Closing.after(e, memos.orElse(null));
            throw e;
        }
    }

    private InputStream behindHeader() {
        try {
            InputStream opened = new BufferedInputStream(file.open(), 128 * 1024);
            try {
                opened.skipNBytes(header.length());
                return opened;
            } catch (IOException e) {
                opened.close();
                throw e;
            }
        } catch (IOException e) {
            throw XbaseHeader.malformed(file, "ends before its first record");
        }
    }

    @Override
    public TableDefinition table() {
        return table;
    }

    @Override
    public boolean read(RecordBatch batch) {
        batch.start(places.length, table.name().toString(), file.shown(), true);
        while (!batch.isFull() && next()) {
            try {
                for (int column = 0; column < places.length; column++) {
                    value(batch, column);
                }
                batch.endRow(number);
            } catch (BadValueException e) {
                batch.dropRow();
                rejects.reject(e);
            }
        }
        return batch.rows() > 0;
    }

    private boolean next() {
        while (!ended) {
            int length = fill();
            if (length <= 1 && (length == 0 || record[0] == END)) {
                ended = true;
                if (number != header.records()) {
                    throw new MalformedFileException(
                            origin(number), "has " + number + " records, and its header says " + header.records());
                }
                return false;
            }
            if (length < record.length) {
                throw new MalformedFileException(
                        origin(number + 1), "the file ends in the middle of record " + (number + 1));
            }
            number++;
            if (record[0] != '*') {
                return true;
            }
            deleted++;
        }
        return false;
    }

    private int fill() {
        try {
            if (number == header.records()) {
                // what stands behind the last record that the header counts is no record
                int behind = in.read();
                if (behind < 0 || behind == END || behind == 0) {
                    return 0;
                }
                throw new MalformedFileException(
                        origin(number), "goes on behind the " + number + " records that its header says");
            }
            int at = in.readNBytes(record, 0, record.length);
            return at > 0 && record[0] == END ? 1 : at;
        } catch (IOException e) {
            throw new PlaceException(file.shown(), "can't be read: " + e.getMessage(), e);
        }
    }

    private Origin origin(long at) {
        return new Origin(table.name().toString(), file.shown(), at, true);
    }

    private void value(RecordBatch batch, int column) {
        int place = places[column];
        XbaseField field = header.fields().get(place);
        int at = offsets[place];
        if (flags.isSet(record, flags.ofNull(place))) {
            batch.addNull();
            return;
        }
        ByteBuffer bytes = ByteBuffer.wrap(record, at, field.length()).slice().order(ByteOrder.LITTLE_ENDIAN);
        String raw = new String(record, at, field.length(), StandardCharsets.ISO_8859_1);
        if (field.isMemo()) {
            memo(batch, bytes, unfilled(raw), field, column);
            return;
        }
        switch (field.type()) {
            case 'C' -> text(batch, column, at, field.length());
            case 'N', 'F' -> number(batch, unfilled(raw), column);
            case 'L' -> truth(batch, unfilled(raw), column);
            case 'D' -> date(batch, unfilled(raw), column);
            case 'I', '+' -> batch.add(bytes.getInt());
            case 'B', 'O' -> batch.add(JavaValues.text(bytes.getDouble()));
            case 'Y' -> batch.add(BigDecimal.valueOf(bytes.getLong(), 4).toPlainString());
            case 'T', '@' -> moment(batch, bytes, column);
            case 'V', 'Q' -> varying(batch, column, at, field, flags.isSet(record, flags.ofLength(place)));
            default -> text(batch, column, at, field.length());
        }
    }

    /** Values are filled up with blanks; by programs that don't know better, with zeros behind them. */
    private static String unfilled(String raw) {
        int end = raw.length();
        while (end > 0 && raw.charAt(end - 1) == 0) {
            end--;
        }
        return raw.substring(0, end).strip();
    }

    /** The last byte of a value that doesn't fill its field says how long it is. */
    private void varying(RecordBatch batch, int column, int at, XbaseField field, boolean shorter) {
        int length = shorter ? record[at + field.length() - 1] & 0xFF : field.length();
        if (length > field.length()) {
            throw bad(column, Integer.toString(length), "is more bytes than the field has");
        }
        if (field.type() == 'Q') {
            batch.add(record, at, at + length);
        } else {
            decoded(batch, column, record, at, length);
        }
    }

    /** Texts are filled up with blanks; a text of nothing but blanks is none. */
    private void text(RecordBatch batch, int column, int at, int length) {
        int end = at + length;
        while (end > at && (record[end - 1] == ' ' || record[end - 1] == 0)) {
            end--;
        }
        if (end == at) {
            batch.addNull();
        } else {
            decoded(batch, column, record, at, end - at);
        }
    }

    private void decoded(RecordBatch batch, int column, byte[] bytes, int at, int length) {
        try {
            batch.add(XbaseHeader.text(bytes, at, length, header.encoding()));
            unmarked.add(bytes, at, length);
        } catch (InvalidValueException e) {
            throw bad(column, new String(bytes, at, length, StandardCharsets.ISO_8859_1), e.getMessage());
        }
    }

    private void number(RecordBatch batch, String text, int column) {
        boolean lost = !text.isEmpty() && text.chars().allMatch(c -> c == '*');
        if (text.isEmpty() || lost && errorsAreNull) {
            batch.addNull();
            return;
        }
        try {
            batch.add(ExactNumber.of(text).toPlainString());
        } catch (NumberFormatException e) {
            throw bad(
                    column,
                    text,
                    lost ? "was too large for its field; the setting errors can make it null" : "is no number");
        } catch (InvalidValueException e) {
            throw bad(column, text, e.getMessage());
        }
    }

    private void truth(RecordBatch batch, String text, int column) {
        switch (text) {
            case "T", "t", "Y", "y" -> batch.add("true");
            case "F", "f", "N", "n" -> batch.add("false");
            case "", "?" -> batch.addNull();
            default -> throw bad(column, text, "is neither true nor false");
        }
    }

    private void date(RecordBatch batch, String text, int column) {
        if (text.isEmpty() || text.equals("00000000")) {
            batch.addNull();
        } else if (text.matches("\\d{8}")) {
            batch.add(text.substring(0, 4) + '-' + text.substring(4, 6) + '-' + text.substring(6));
        } else {
            throw bad(column, text, "is no date");
        }
    }

    /** A day by its Julian number, and milliseconds since midnight. */
    private void moment(RecordBatch batch, ByteBuffer bytes, int column) {
        int day = bytes.getInt();
        int millis = bytes.getInt();
        if (day == 0 && millis == 0) {
            batch.addNull();
        } else {
            try {
                LocalDate date = LocalDate.MIN.with(JulianFields.JULIAN_DAY, day);
                batch.add(JavaValues.text(LocalDateTime.of(date, LocalTime.ofNanoOfDay(millis * 1_000_000L))));
            } catch (DateTimeException e) {
                throw bad(column, day + " " + millis, "is no day of the calendar with milliseconds of a day");
            }
        }
    }

    private void memo(RecordBatch batch, ByteBuffer bytes, String text, XbaseField field, int column) {
        long memo;
        if (field.length() == 4) {
            memo = bytes.getInt() & 0xFFFFFFFFL;
        } else if (text.isEmpty()) {
            memo = 0;
        } else if (text.matches("\\d+")) {
            memo = Long.parseLong(text);
        } else {
            throw bad(column, text, "is no number of a memo");
        }
        if (memo == 0) {
            batch.addNull();
            return;
        }
        if (memos.isEmpty()) {
            throw bad(column, text, "is the number of a memo, and no memo file (.dbt, .fpt) stands beside the table");
        }
        try {
            byte[] content = memos.get().memo(memo);
            if (field.type() == 'M') {
                decoded(batch, column, content, 0, content.length);
            } else {
                batch.add(content);
            }
        } catch (IllegalArgumentException e) {
            throw bad(column, Long.toString(memo), e.getMessage());
        }
    }

    private BadValueException bad(int column, String text, String why) {
        return new BadValueException(origin(number), table.columns().get(column).name(), text, why);
    }

    @Override
    public List<Finding> findings() {
        List<Finding> findings = new ArrayList<>(unmarked.findings(table.name()));
        if (deleted > 0) {
            findings.add(Finding.of(
                    FindingCode.RECORD_PASSED_OVER,
                    table.name(),
                    deleted + " records are marked as deleted, and were passed over"));
        }
        return findings;
    }

    @Override
    public void close() {
        try {
            in.close();
        } catch (IOException e) {
            throw new PlaceException(file.shown(), "can't be closed: " + e.getMessage(), e);
        } finally {
            memos.ifPresent(MemoFile::close);
        }
    }
}
