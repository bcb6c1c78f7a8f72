package org.orderlyferry.office.xbase;

import java.io.BufferedOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.CharBuffer;
import java.nio.charset.CharacterCodingException;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import org.orderlyferry.format.FileSettings;
import org.orderlyferry.format.GrownFile;
import org.orderlyferry.format.TablesWriter;
import org.orderlyferry.io.TemporaryFolder;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.Finding;
import org.orderlyferry.model.FindingCode;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.problem.BadValueException;
import org.orderlyferry.problem.PlaceException;
import org.orderlyferry.problem.UsageException;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordWriter;
import org.orderlyferry.record.Records;
import org.orderlyferry.record.Screen;

/**
 * Writes an xBase table with a memo file of dBASE IV. A header says how many records follow, so these wait in a file of
 * their own until all are there.
 */
final class XbaseWriter implements TablesWriter {

    private static final int MOST_FIELDS = 255;
    private static final int MOST_BYTES = 65_535;
    private static final int LONGEST_TEXT = 254;
    private static final int BYTES_OF_CHARACTER = 4;
    private static final int MOST_DIGITS = 18;
    private static final int LONGEST_PLAIN = 64;
    private static final int BLOCK = 512;
    private static final int WITH_MEMO = 0x8B;
    private static final int WITHOUT_MEMO = 0x03;
    private static final int MEMO_LENGTH = 10;
    private static final byte[] MEMO_MARK = {(byte) 0xFF, (byte) 0xFF, 0x08, 0x00};

    private final OutputStream out;
    private final String shown;
    private final TableDefinition table;
    private final Charset encoding;
    private final List<XbaseField> fields = new ArrayList<>();
    private final List<Finding> findings = new ArrayList<>();
    private final Path records;
    private final OutputStream recordsOut;
    private final Path memos;
    private final OutputStream memosOut;
    private long nextBlock = 1;
    private long count;

    XbaseWriter(OutputStream out, String shown, TableDefinition table, FileSettings settings) {
        this.out = out;
        this.shown = shown;
        this.table = table;
        this.encoding = settings.encoding("encoding", StandardCharsets.UTF_8);
        List<String> names = XbaseNames.of(table.columnNames());
        for (int i = 0; i < names.size(); i++) {
            ColumnDefinition column = table.columns().get(i);
            fields.add(field(names.get(i), column.type()));
            if (!names.get(i).equals(column.name())) {
                findings.add(new Finding(
                        FindingCode.NAME_CHANGED,
                        table.name(),
                        column.name(),
                        "the field is called " + names.get(i) + " in the file"));
            }
        }
        int length = 1 + fields.stream().mapToInt(XbaseField::length).sum();
        if (fields.size() > MOST_FIELDS || length > MOST_BYTES) {
            throw new UsageException("an xBase table has at most " + MOST_FIELDS + " fields and " + MOST_BYTES
                    + " bytes a record, and " + table.name() + " would have " + fields.size() + " and " + length);
        }
        if (!encoding.equals(StandardCharsets.UTF_8) && XbaseHeader.codePage(encoding) == 0) {
            findings.add(Finding.of(
                    FindingCode.ENCODING_UNMARKED,
                    table.name(),
                    "the file has no mark for the encoding " + encoding.name() + "; who reads it has to be told"));
        }
        try {
            this.records = TemporaryFolder.newFile(".records");
            this.recordsOut = new BufferedOutputStream(TemporaryFolder.into(records), 64 * 1024);
            this.memos = TemporaryFolder.newFile(".memos");
            this.memosOut = new BufferedOutputStream(TemporaryFolder.into(memos), 64 * 1024);
            memosOut.write(new byte[BLOCK]);
        } catch (IOException e) {
            throw failed(e);
        }
    }

    private static XbaseField field(String name, LogicalType type) {
        return switch (type.name()) {
            case BOOLEAN -> new XbaseField(name, 'L', 1, 0);
            case SMALLINT -> new XbaseField(name, 'N', 6, 0);
            case INTEGER -> new XbaseField(name, 'N', 11, 0);
            case BIGINT -> new XbaseField(name, 'N', 20, 0);
            case DECIMAL ->
                type.isSized() && type.size() <= MOST_DIGITS && type.scale() >= 0
                        ? new XbaseField(name, 'N', type.size() + 2, type.scale())
                        : new XbaseField(name, 'C', LONGEST_PLAIN, 0);
            case DATE -> new XbaseField(name, 'D', 8, 0);
            case REAL, DOUBLE, TIME, TIMESTAMP, TIMESTAMP_WITH_TIME_ZONE, INTERVAL, UUID ->
                new XbaseField(name, 'C', LONGEST_PLAIN, 0);
            case CHARACTER, VARCHAR ->
                type.isSized() && type.size() * BYTES_OF_CHARACTER <= LONGEST_TEXT
                        ? new XbaseField(name, 'C', type.size() * BYTES_OF_CHARACTER, 0)
                        : new XbaseField(name, 'M', MEMO_LENGTH, 0);
            case BINARY, VARBINARY, BLOB -> new XbaseField(name, 'G', MEMO_LENGTH, 0);
            default -> new XbaseField(name, 'M', MEMO_LENGTH, 0);
        };
    }

    @Override
    public RecordWriter writer(TableDefinition same) {
        return new RecordWriter() {
            @Override
            public void write(RecordBatch batch) {
                try {
                    for (int row = 0; row < batch.rows(); row++) {
                        record(batch, row);
                    }
                } catch (IOException e) {
                    throw failed(e);
                }
            }

            @Override
            public void finish() {
                // the file is written as a whole
            }

            @Override
            public void close() {
                // the file is closed as a whole
            }
        };
    }

    @Override
    public Optional<Screen> screen(TableDefinition same) {
        return Optional.of(Screen.by(this::look));
    }

    private void look(Records batch, int row) {
        for (int column = 0; column < fields.size(); column++) {
            XbaseField field = fields.get(column);
            if (batch.isNull(row, column) || field.type() == 'G') {
                continue;
            }
            if (field.type() == 'M') {
                encoded(batch, row, column, batch.text(row, column));
            } else {
                mustFit(plain(batch, row, column, field), batch, row, column);
            }
        }
    }

    private void mustFit(byte[] value, Records batch, int row, int column) {
        XbaseField field = fields.get(column);
        if (value.length > field.length()) {
            throw bad(batch, row, column, "takes more than the " + field.length() + " bytes of its field");
        }
    }

    private void record(Records batch, int row) throws IOException {
        recordsOut.write(' ');
        for (int column = 0; column < fields.size(); column++) {
            XbaseField field = fields.get(column);
            byte[] value = batch.isNull(row, column) ? new byte[0] : value(batch, row, column, field);
            mustFit(value, batch, row, column);
            byte[] blanks = new byte[field.length() - value.length];
            Arrays.fill(blanks, (byte) ' ');
            boolean right = field.type() == 'N' || field.type() == 'M' || field.type() == 'G';
            recordsOut.write(right ? blanks : value);
            recordsOut.write(right ? value : blanks);
        }
        count++;
    }

    private byte[] value(Records batch, int row, int column, XbaseField field) throws IOException {
        if (field.type() == 'G') {
            return memo(batch.copy(row, column));
        }
        return field.type() == 'M'
                ? memo(encoded(batch, row, column, batch.text(row, column)))
                : plain(batch, row, column, field);
    }

    /** A value that stands in the record itself. */
    private byte[] plain(Records batch, int row, int column, XbaseField field) {
        String text = batch.text(row, column);
        return switch (field.type()) {
            case 'L' -> text.equals("true") ? new byte[] {'T'} : new byte[] {'F'};
            case 'D' -> {
                if (text.length() != 10 || text.startsWith("0000")) {
                    throw bad(batch, row, column, "can't be held: its dates go from the year 1 to 9999");
                }
                yield text.replace("-", "").getBytes(StandardCharsets.US_ASCII);
            }
            case 'C' -> {
                boolean lost =
                        text.isEmpty() || text.charAt(text.length() - 1) == ' ' || text.charAt(text.length() - 1) == 0;
                if (lost) {
                    throw bad(batch, row, column, "can't be held: blanks fill a field up, so its end would be lost");
                }
                yield encoded(batch, row, column, text);
            }
            default -> text.getBytes(StandardCharsets.US_ASCII);
        };
    }

    private byte[] encoded(Records batch, int row, int column, String text) {
        try {
            ByteBuffer bytes = encoding.newEncoder().encode(CharBuffer.wrap(text));
            return Arrays.copyOf(bytes.array(), bytes.limit());
        } catch (CharacterCodingException e) {
            throw bad(batch, row, column, "can't be written in " + encoding.name() + "; choose UTF-8");
        }
    }

    /** Adds a memo; its number is that of its first block. */
    private byte[] memo(byte[] content) throws IOException {
        long number = nextBlock;
        memosOut.write(MEMO_MARK);
        memosOut.write(ByteBuffer.allocate(4)
                .order(ByteOrder.LITTLE_ENDIAN)
                .putInt(content.length + 8)
                .array());
        memosOut.write(content);
        int used = content.length + 8;
        int blocks = (used + BLOCK - 1) / BLOCK;
        memosOut.write(new byte[blocks * BLOCK - used]);
        nextBlock += blocks;
        return Long.toString(number).getBytes(StandardCharsets.US_ASCII);
    }

    private BadValueException bad(Records batch, int row, int column, String why) {
        return new BadValueException(
                batch.origin(row), table.columns().get(column).name(), batch.text(row, column), why);
    }

    private boolean hasMemos() {
        return fields.stream().anyMatch(f -> f.type() == 'M' || f.type() == 'G');
    }

    @Override
    public void finish() {
        try {
            recordsOut.close();
            memosOut.close();
            out.write(header());
            Files.copy(records, out);
            out.write(0x1A);
            out.flush();
            if (hasMemos()) {
                try (var channel = java.nio.channels.FileChannel.open(memos, java.nio.file.StandardOpenOption.WRITE)) {
                    channel.write(memoHeader());
                }
            }
        } catch (IOException e) {
            throw failed(e);
        }
    }

    private byte[] header() {
        int length = 32 + 32 * fields.size() + 1;
        ByteBuffer header = ByteBuffer.allocate(length).order(ByteOrder.LITTLE_ENDIAN);
        LocalDate today = LocalDate.now(ZoneOffset.UTC);
        header.put((byte) (hasMemos() ? WITH_MEMO : WITHOUT_MEMO));
        header.put((byte) (today.getYear() - 1900))
                .put((byte) today.getMonthValue())
                .put((byte) today.getDayOfMonth());
        header.putInt((int) count);
        header.putShort((short) length);
        header.putShort(
                (short) (1 + fields.stream().mapToInt(XbaseField::length).sum()));
        header.put(29, (byte) XbaseHeader.codePage(encoding));
        header.position(32);
        for (XbaseField field : fields) {
            int at = header.position();
            header.put(field.name().getBytes(StandardCharsets.US_ASCII));
            header.position(at + 11);
            header.put((byte) field.type());
            header.position(at + 16);
            header.put((byte) field.length()).put((byte) field.decimals());
            header.position(at + 32);
        }
        header.put((byte) 0x0D);
        return header.array();
    }

    private ByteBuffer memoHeader() {
        ByteBuffer header = ByteBuffer.allocate(BLOCK).order(ByteOrder.LITTLE_ENDIAN);
        header.putInt(0, (int) nextBlock);
        header.putShort(20, (short) BLOCK);
        return header;
    }

    @Override
    public List<GrownFile> grownFiles() {
        return hasMemos() ? List.of(new GrownFile("dbt", memos)) : List.of();
    }

    @Override
    public List<Finding> findings() {
        return findings;
    }

    private PlaceException failed(IOException e) {
        return new PlaceException(shown, "can't be written: " + e.getMessage(), e);
    }

    @Override
    public void close() {
        try (out;
                recordsOut;
                memosOut) {
            Files.deleteIfExists(records);
            Files.deleteIfExists(memos);
        } catch (IOException e) {
            throw failed(e);
        }
    }
}
