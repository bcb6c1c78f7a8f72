package org.orderlyferry.databases.script;

import java.nio.charset.StandardCharsets;
import java.util.Base64;
import java.util.HashMap;
import java.util.Iterator;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.regex.Pattern;
import org.orderlyferry.databases.dialect.Scripting;
import org.orderlyferry.databases.dialect.SystemSql;
import org.orderlyferry.model.ColumnDefault;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TypeName;
import org.orderlyferry.problem.BadValueException;
import org.orderlyferry.problem.FieldCount;
import org.orderlyferry.problem.MalformedFileException;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordReader;
import org.orderlyferry.record.Rejects;
import org.orderlyferry.record.text.InvalidValueException;
import org.orderlyferry.record.text.Utf8;
import org.orderlyferry.record.text.ValueText;

/** Reads a table's records out of a script's INSERT statements and blocks of data. */
final class ScriptReader implements RecordReader {

    /** A blank in front of a zone, which is a T by then. */
    private static final Set<String> TRUTH = Set.of("true", "false");

    /** An amount of PostgreSQL's type for money, as its tools write it where the server's currency isn't set otherwise. */
    private static final Pattern AMOUNT = Pattern.compile("-?\\$\\d{1,3}(?:,?\\d{3})*+(?:\\.\\d+)?");

    private static final Pattern ZONE_APART = Pattern.compile("T([+-]\\d\\d(?::\\d\\d)?)$");

    private static final String END_OF_BLOCK = "\\.";

    private final ScriptInput input;
    private final String source;
    private final Scripting scripting;
    private final boolean caseMatters;
    private final StatementHeads heads;
    private final ValuePlaces places;
    private final TableDefinition whole;
    private final TableDefinition table;
    private final int[] wanted;
    private final Map<String, ScriptCounter> counters;
    /** Of columns whose defaults are texts that are none of their values. */
    private final Map<String, ScriptValue> defaults = new HashMap<>();

    private final Rejects rejects;
    private final Iterator<ScriptIndex.Stretch> stretches;
    private long stretchEnd;
    private boolean inInsert;
    private CopyText copied = CopyText.USUAL;
    private boolean inBlock;

    ScriptReader(
            ScriptInput input,
            String source,
            SystemSql system,
            List<ScriptIndex.Stretch> stretches,
            TableDefinition whole,
            List<String> columns,
            Rejects rejects) {
        this.input = input;
        this.source = source;
        this.scripting = system.scripting();
        this.caseMatters = system.naming().caseMatters();
        this.heads = new StatementHeads(scripting);
        this.stretches = stretches.iterator();
        this.whole = whole;
        this.table = whole.withColumns(columns);
        this.wanted = columns.stream().mapToInt(whole.columnNames()::indexOf).toArray();
        this.places = new ValuePlaces(whole, caseMatters);
        this.rejects = rejects;
        this.counters = ScriptCounter.of(whole);
        whole.columns()
                .forEach(c ->
                        c.defaultValue().flatMap(ScriptValue::ofDefault).ifPresent(d -> defaults.put(c.name(), d)));
    }

    @Override
    public TableDefinition table() {
        return table;
    }

    @Override
    public boolean read(RecordBatch batch) {
        batch.start(wanted.length, table.name().toString(), source, true);
        while (!batch.isFull()) {
            if (inBlock) {
                block(batch);
            } else if (inInsert) {
                insert(batch);
            } else if (!nextStatement()) {
                break;
            }
        }
        return batch.rows() > 0;
    }

    /** Goes to the next statement that brings records of the table. */
    private boolean nextStatement() {
        while (true) {
            if (input.position() >= stretchEnd) {
                if (!stretches.hasNext()) {
                    return false;
                }
                ScriptIndex.Stretch stretch = stretches.next();
                input.goOn(stretch);
                stretchEnd = stretch.end();
            }
            String sql = input.next();
            if (sql == null) {
                stretchEnd = 0;
                continue;
            }
            Optional<DataStatement> data = heads.of(sql);
            if (data.isEmpty() || !isCalled(data.get().table(), whole.name().name())) {
                continue;
            }
            if (data.get().inLines()) {
                input.endLine();
            }
            copied = data.get().lines(input.origin(table.name().toString(), input.line()));
            try {
                places.statement(data.get().columns());
            } catch (IllegalArgumentException e) {
                throw new MalformedFileException(
                        input.origin(table.name().toString(), input.line()),
                        "the statement names a column " + e.getMessage() + " that the table doesn't have");
            }
            inBlock = data.get().inLines();
            inInsert = !inBlock;
            return true;
        }
    }

    private MalformedFileException cutShort(String ofTable) {
        return new MalformedFileException(
                input.origin(ofTable, input.line()), "the file ends in the middle of a block of records");
    }

    /** Whether a name, as it is written, means what was made by another. */
    private boolean isCalled(String written, String made) {
        return caseMatters ? written.equals(made) : written.equalsIgnoreCase(made);
    }

    private void insert(RecordBatch batch) {
        String tuple = input.tuple();
        if (tuple == null) {
            inInsert = false;
            return;
        }
        List<ScriptValue> record;
        try {
            record = new ValueParser(tuple, scripting.hasBackslashes()).record();
        } catch (IllegalArgumentException e) {
            rejects.reject(new MalformedFileException(
                    input.origin(table.name().toString(), input.line()), "the record " + e.getMessage()));
            return;
        }
        add(batch, record, input.line());
    }

    private void block(RecordBatch batch) {
        String text = input.dataLine();
        if (text == null) {
            throw cutShort(table.name().toString());
        }
        if (text.equals(END_OF_BLOCK)) {
            inBlock = false;
            return;
        }
        add(batch, CopyLine.fields(text, copied), input.line());
    }

    private void add(RecordBatch batch, List<ScriptValue> record, long line) {
        try {
            if (!places.list(record.size())) {
                throw new MalformedFileException(
                        input.origin(table.name().toString(), line),
                        new FieldCount(record.size(), places.size()).toString());
            }
            for (int column : wanted) {
                int at = places.of(column);
                value(
                        batch,
                        whole.columns().get(column),
                        at < 0 ? Optional.empty() : Optional.of(record.get(at)),
                        line);
            }
            batch.endRow(line);
        } catch (MalformedFileException | BadValueException e) {
            if (e instanceof MalformedFileException malformed && malformed.isOfEncoding()) {
                // it isn't this record alone that is read wrongly
                throw e;
            }
            batch.dropRow();
            rejects.reject(e);
        }
    }

    /** A column that a statement doesn't name has its default, or what its counter gives. */
    private void value(RecordBatch batch, ColumnDefinition column, Optional<ScriptValue> given, long line) {
        ScriptValue.Kind kind = given.map(ScriptValue::kind).orElse(ScriptValue.Kind.DEFAULT);
        ScriptCounter counter = counters.get(column.name());
        if (counter != null
                && (kind == ScriptValue.Kind.DEFAULT || kind == ScriptValue.Kind.NULL && scripting.countsNulls())) {
            batch.add(counter.next());
            return;
        }
        if (counter != null) {
            counter.given(given.orElseThrow().bytes());
        }
        ScriptValue value = kind == ScriptValue.Kind.DEFAULT ? defaults.get(column.name()) : given.orElseThrow();
        if (value == null) {
            addDefault(batch, column, given.isPresent(), line);
            return;
        }
        if (kind == ScriptValue.Kind.NULL) {
            batch.addNull();
            return;
        }
        try {
            ScriptValue meant = value.kind() == ScriptValue.Kind.NUMBER
                    ? new ScriptValue(value.kind(), scripting.number(value.bytes(), column.type()))
                    : value;
            if (SmallNumbers.mayBe(column) && !TRUTH.contains(truth(meant.bytes()))) {
                throw new IllegalArgumentException(
                        "is no truth value; the setting tinyint can have such columns carried as SMALLINT");
            }
            byte[] bytes = proper(column.type(), bytes(column.type(), meant)).getBytes(StandardCharsets.ISO_8859_1);
            int bad = column.type().name().isBinary() ? -1 : Utf8.firstInvalid(bytes, 0, bytes.length);
            if (bad >= 0) {
                throw MalformedFileException.ofEncoding(
                        input.origin(table.name().toString(), line),
                        String.format(
                                Locale.ROOT,
                                "the byte 0x%02X in column %s isn't valid UTF-8, after %s; the setting encoding says what"
                                        + " the script is in",
                                bytes[bad],
                                column.name(),
                                BadValueException.shown(new String(bytes, 0, bad, StandardCharsets.UTF_8))));
            }
            batch.add(bytes);
        } catch (IllegalArgumentException e) {
            throw new BadValueException(
                    input.origin(table.name().toString(), line),
                    column.name(),
                    DataStatement.text(value.bytes()),
                    column.type().name().isBinary()
                            ? "isn't hexadecimal, as binary values are written here"
                            : e.getMessage());
        }
    }

    /** What only a server works out is refused where it is asked for by name; else it was told, and comes as null. */
    private void addDefault(RecordBatch batch, ColumnDefinition column, boolean asked, long line) {
        ColumnDefault value = column.defaultValue().orElse(null);
        if (value instanceof ColumnDefault.Literal literal) {
            batch.add(
                    column.type().name().isBinary()
                            ? Base64.getDecoder().decode(literal.text())
                            : literal.text().getBytes(StandardCharsets.UTF_8));
        } else if (asked && value instanceof ColumnDefault.Expression expression) {
            throw new BadValueException(
                    input.origin(table.name().toString(), line),
                    column.name(),
                    "DEFAULT",
                    "is " + expression.sql() + " here, which only a server works out");
        } else {
            batch.addNull();
        }
    }

    /** Of types whose values systems write in several ways, the one way of value text. */
    private static String proper(LogicalType type, String text) {
        return switch (type.name()) {
            case REAL, DOUBLE, TIMESTAMP_WITH_TIME_ZONE -> {
                ValueText form = ValueText.of(type);
                byte[] bytes = text.getBytes(StandardCharsets.ISO_8859_1);
                try {
                    yield form.isProper(bytes, 0, bytes.length) ? text : form.toProper(text);
                } catch (InvalidValueException e) {
                    throw new IllegalArgumentException(e.getMessage(), e);
                }
            }
            case INTERVAL -> WrittenInterval.duration(text).orElse(text);
            default -> text;
        };
    }

    /** The value text, byte for character. */
    private String bytes(LogicalType type, ScriptValue value) {
        String text = value.bytes();
        if (type.name().isBinary()) {
            return value.kind() == ScriptValue.Kind.TEXT ? scripting.bytesOf(text) : text;
        }
        return switch (type.name()) {
            case BOOLEAN -> truth(text);
            case DECIMAL -> AMOUNT.matcher(text).matches() ? text.replaceAll("[$,]", "") : text;
            case REAL, DOUBLE -> floating(text);
            case DATE, TIMESTAMP, TIMESTAMP_WITH_TIME_ZONE -> moment(text, type.name());
            case ARRAY ->
                text.startsWith("[") && !text.contains("=")
                        ? text
                        : ArrayLiteral.json(
                                text,
                                type.element(),
                                t -> type.element().name().isApproximateNumber()
                                        ? t
                                        : bytes(type.element(), new ScriptValue(ScriptValue.Kind.TEXT, t)));
            case TIME -> seconds(text);
            case UUID -> text.toLowerCase(Locale.ROOT);
            default -> text;
        };
    }

    private static String truth(String text) {
        return switch (text) {
            case "t", "1", "\u0001" -> "true";
            case "f", "0", "\u0000" -> "false";
            default -> text;
        };
    }

    private static String floating(String text) {
        return switch (text.toLowerCase(Locale.ROOT)) {
            case "infinity", "inf", "9e999", "1e999" -> "INF";
            case "-infinity", "-inf", "-9e999", "-1e999" -> "-INF";
            default -> text;
        };
    }

    /** {@code 2031-04-09 07:30:00.250000+00} as {@code 2031-04-09T07:30:00.25Z}; the year 1 BC is the year 0. */
    private static String moment(String text, TypeName type) {
        String iso = text.replace(' ', 'T');
        if (iso.endsWith("TBC")) {
            iso = iso.substring(0, iso.length() - 3);
            int hyphen = iso.indexOf('-');
            int year = Integer.parseInt(iso.substring(0, hyphen)) - 1;
            iso = (year == 0 ? "0000" : String.format(Locale.ROOT, "-%04d", year)) + iso.substring(hyphen);
        }
        if (type == TypeName.DATE) {
            return iso;
        }
        // a day is its midnight
        iso = iso.indexOf('T') < 0 ? iso + "T00:00:00" : iso;
        if (type == TypeName.TIMESTAMP_WITH_TIME_ZONE) {
            iso = iso.endsWith("+00") ? iso.substring(0, iso.length() - 3) + 'Z' : iso;
            iso = ZONE_APART.matcher(iso).replaceFirst("$1");
            iso = iso.matches(".*[+-]\\d\\d") ? iso + ":00" : iso;
            boolean zoned = iso.endsWith("Z") || iso.matches(".*[+-]\\d\\d:\\d\\d");
            return zoned ? iso : seconds(iso) + 'Z';
        }
        return seconds(iso);
    }

    private static String seconds(String text) {
        return text.indexOf('.') < 0 ? text : text.replaceFirst("\\.?0+$", "");
    }

    @Override
    public void close() {
        input.close();
    }
}
