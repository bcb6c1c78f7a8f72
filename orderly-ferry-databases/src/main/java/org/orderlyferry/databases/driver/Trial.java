package org.orderlyferry.databases.driver;

import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.EnumMap;
import java.util.EnumSet;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import org.orderlyferry.databases.dialect.CellReader;
import org.orderlyferry.databases.dialect.DefinitionSql;
import org.orderlyferry.databases.lane.JavaTimeCells;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TypeName;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.text.InvalidValueException;
import org.orderlyferry.record.text.JavaValues;

/**
 * Asks a system what its driver doesn't tell, by values that are cast and come back: {@code SELECT CAST(? AS TIMESTAMP)}.
 * That changes nothing in it and needs no right. Where a system can't be asked so, JDBC's own ways are taken.
 *
 * @param digits how many digits of a second's fraction come back, by types
 * @param names how types with a fraction are written so that they hold that many, by their codes
 * @param reading by which way values of a type are read
 * @param binding by which way they are given
 * @param shifted what doesn't come back as it was given, by types
 * @param differing how texts and bytes are compared to the last one, by types
 * @param lost what doesn't come back, or not as it was
 */
record Trial(
        Map<TypeName, Integer> digits,
        Map<Integer, String> names,
        Map<TypeName, Way> reading,
        Map<TypeName, Given> binding,
        Map<TypeName, Set<Shift>> shifted,
        Map<TypeName, String> differing,
        Set<Lost> lost) {

    /** Values that a system may not keep. */
    enum Lost {
        EMPTY_TEXT(""),
        BLANK_END("a "),
        NUL("a\0b"),
        BEYOND_FIRST_PLANE("\uD83C\uDF3F"),
        NOT_A_NUMBER("NaN"),
        INFINITY("INF"),
        MINUS_ZERO("-0.0");

        private final String sample;

        Lost(String sample) {
            this.sample = sample;
        }
    }

    private static final List<String> FORMS = List.of(
            "SELECT CAST(%s AS %s)",
            "VALUES CAST(%s AS %s)",
            "SELECT CAST(%s AS %s) FROM DUAL",
            "SELECT CAST(%s AS %s) FROM RDB$DATABASE",
            "SELECT CAST(%s AS %s) FROM SYSIBM.SYSDUMMY1");

    private static final int[] FRACTIONS = {9, 7, 6, 4, 3, 2, 1, 0};
    private static final String NINE = "123456789";
    private static final int SHORT = 40;

    /** A trial of nothing: all is as JDBC has it. */
    static final Trial NONE = new Trial(Map.of(), Map.of(), Map.of(), Map.of(), Map.of(), Map.of(), Set.of());

    private static final Map<String, Trial> DONE = new ConcurrentHashMap<>();

    /**
     * Asks over a connection that commits by itself; a database is asked once.
     *
     * @throws SQLException if the driver can't say where it is connected to
     */
    static Trial of(Connection connection, List<DriverType> types) throws SQLException {
        String database = connection.getMetaData().getURL() + ' ' + ZoneId.systemDefault();
        Trial done = DONE.get(database);
        if (done == null) {
            done = asked(connection, types);
            DONE.put(database, done);
        }
        return done;
    }

    private static Trial asked(Connection connection, List<DriverType> types) {
        return FORMS.stream()
                .filter(f -> new Asking(connection, f, types).works())
                .findFirst()
                .map(f -> new Asking(connection, f, types).all())
                .orElse(NONE);
    }

    Way reading(TypeName type) {
        return reading.getOrDefault(type, Way.OBJECT);
    }

    Given binding(TypeName type) {
        return binding.getOrDefault(type, Given.OBJECT);
    }

    /** Asks one system. */
    private record Asking(Connection connection, String form, List<DriverType> types) {

        boolean works() {
            return cast("1", "INTEGER", LogicalType.INTEGER, Way.OBJECT).equals(Optional.of("1"));
        }

        Trial all() {
            Map<TypeName, Integer> digits = new EnumMap<>(TypeName.class);
            Map<Integer, String> names = new HashMap<>();
            Map<TypeName, Way> reading = new EnumMap<>(TypeName.class);
            Map<TypeName, Given> binding = new EnumMap<>(TypeName.class);
            Map<TypeName, Set<Shift>> shifted = new EnumMap<>(TypeName.class);
            for (TypeName type :
                    List.of(TypeName.DATE, TypeName.TIME, TypeName.TIMESTAMP, TypeName.TIMESTAMP_WITH_TIME_ZONE)) {
                Optional<String> name = name(type);
                if (name.isEmpty()) {
                    continue;
                }
                String written = fraction(type, name.get(), digits);
                names.put(DriverTypes.code(type), written);
                reading.put(type, reading(type, written, digits.getOrDefault(type, 0)));
                binding.put(type, binding(type, written, digits.getOrDefault(type, 0), reading.get(type), shifted));
            }
            Map<TypeName, String> differing =
                    Differing.found(connection, form, new DriverTypes(types, Map.of(), Map.of()));
            return new Trial(digits, names, reading, binding, shifted, differing, lost());
        }

        private Optional<String> name(TypeName type) {
            int code = DriverTypes.code(type);
            if (types.isEmpty()) {
                return Optional.of(type.sql());
            }
            return types.stream()
                    .filter(t -> t.code() == code)
                    .map(DriverType::bare)
                    .findFirst();
        }

        /** The form of a type that holds most digits. */
        private String fraction(TypeName type, String name, Map<TypeName, Integer> digits) {
            if (type == TypeName.DATE) {
                return name;
            }
            List<String> forms = forms(name).stream()
                    .filter(f -> asked("NULL", f, LogicalType.of(type), Way.TEXT, s -> {})
                            .isPresent())
                    .toList();
            for (int count : FRACTIONS) {
                String value = moment(type, count);
                for (String written : forms) {
                    for (Way way : Way.values()) {
                        if (cast(literal(value), written, LogicalType.of(type), way)
                                .equals(Optional.of(value))) {
                            digits.put(type, count);
                            return written;
                        }
                    }
                }
            }
            return name;
        }

        private static List<String> forms(String name) {
            List<String> forms = new ArrayList<>();
            int space = name.indexOf(' ');
            String head = space < 0 ? name : name.substring(0, space);
            String tail = space < 0 ? "" : name.substring(space);
            for (int count : new int[] {9, 7, 6}) {
                forms.add(head + "(" + count + ")" + tail);
            }
            forms.add(name);
            return forms;
        }

        private static String moment(TypeName type, int digits) {
            String time = "07:30:01" + (digits == 0 ? "" : "." + NINE.substring(0, digits));
            return type == TypeName.TIME ? time : "2031-04-09T" + time + (type == TypeName.TIMESTAMP ? "" : "Z");
        }

        private static String literal(String value) {
            return DefinitionSql.string(DriverCells.written(value));
        }

        private Way reading(TypeName type, String written, int digits) {
            Way best = Way.OBJECT;
            int most = -1;
            for (Way way : Way.values()) {
                int right = 0;
                for (String sample : samples(type, digits)) {
                    right += cast(literal(sample), written, LogicalType.of(type), way)
                                    .equals(Optional.of(sample))
                            ? 1
                            : 0;
                }
                if (right > most) {
                    best = way;
                    most = right;
                }
            }
            return best;
        }

        /**
         * What comes back of values that are given by a way.
         *
         * @param right how many come back as they were
         * @param changed of which kinds some come back as others, or can't be at all in years that few systems have
         * @param wrong of which kinds some don't come back as they were
         * @param rest whether all of no such kind do
         */
        private record Tried(int right, Set<Shift> changed, Set<Shift> wrong, boolean rest) {

            /** What is refused is told, what is shifted is not. */
            boolean isBetterThan(Tried other) {
                return right > 0
                        && (other.right == 0
                                || changed.size() < other.changed.size()
                                || changed.size() == other.changed.size() && right > other.right);
            }
        }

        private Tried tried(TypeName type, String written, int digits, Way way, Way reading) {
            int right = 0;
            boolean rest = true;
            Set<Shift> changed = EnumSet.noneOf(Shift.class);
            Set<Shift> wrong = EnumSet.noneOf(Shift.class);
            for (String sample : samples(type, digits)) {
                Optional<String> back = bound(type, written, sample, way, reading);
                if (back.equals(Optional.of(sample))) {
                    right++;
                    continue;
                }
                List<Shift> kinds =
                        Arrays.stream(Shift.values()).filter(s -> s.has(sample)).toList();
                rest &= !kinds.isEmpty();
                wrong.addAll(kinds);
                // what is refused is told by the system, but a person may want to go on without it
                if (back.isPresent() || Shift.OTHER_YEARS.has(sample)) {
                    changed.addAll(kinds);
                }
            }
            if (way == Way.TEXT && type != TypeName.TIME) {
                // a text that a driver takes rightly at once may be shifted when it waits in a batch
                changed.add(Shift.LEFT_OUT_DAYS);
            }
            return new Tried(right, changed, wrong, rest);
        }

        private Given binding(
                TypeName type, String written, int digits, Way reading, Map<TypeName, Set<Shift>> shifted) {
            Tried objects = tried(type, written, digits, Way.OBJECT, reading);
            Tried texts = tried(type, written, digits, Way.TEXT, reading);
            boolean byText = texts.isBetterThan(objects);
            Tried best = byText ? texts : objects;
            if (best.right() > 0) {
                shifted.put(type, best.changed());
            }
            if (!byText) {
                return Given.OBJECT;
            }
            // drivers take texts apart slowly, and most values are of no kind that goes wrong as an object
            return objects.rest() && type != TypeName.TIME
                    ? new Given(Way.OBJECT, objects.wrong())
                    : new Given(Way.TEXT, Set.of());
        }

        private static List<String> samples(TypeName type, int digits) {
            List<String> samples = new ArrayList<>();
            if (type == TypeName.DATE) {
                samples.addAll(List.of("2031-04-09", "0001-01-01", "9999-12-31"));
            } else {
                samples.addAll(List.of(moment(type, digits), moment(type, 0)));
            }
            if (type != TypeName.TIME) {
                for (Shift shift : Shift.values()) {
                    String sample = shift.sample();
                    if (type == TypeName.TIMESTAMP && !sample.isEmpty()) {
                        samples.add(sample);
                    } else if (shift != Shift.LEFT_OUT_HOUR) {
                        samples.add(type == TypeName.DATE ? sample.substring(0, sample.indexOf('T')) : sample + "Z");
                    }
                }
            }
            return samples;
        }

        private Set<Lost> lost() {
            Set<Lost> lost = EnumSet.noneOf(Lost.class);
            DriverTypes mapping = new DriverTypes(types, Map.of(), Map.of());
            Optional<String> text = mapping.holding(LogicalType.varchar(SHORT));
            Optional<String> number = mapping.holding(LogicalType.DOUBLE);
            for (Lost value : Lost.values()) {
                boolean isText = value.ordinal() < Lost.NOT_A_NUMBER.ordinal();
                (isText ? text : number).ifPresent(type -> {
                    Optional<Optional<String>> back = isText
                            ? given(type, LogicalType.varchar(SHORT), Way.OBJECT, s -> s.setString(1, value.sample))
                            : given(
                                    type,
                                    LogicalType.DOUBLE,
                                    Way.OBJECT,
                                    s -> s.setDouble(1, JavaValues.doubleOf(value.sample)));
                    // what is refused with an error needs no guard
                    if (back.isPresent() && !back.get().equals(Optional.of(value.sample))) {
                        lost.add(value);
                    }
                });
            }
            return lost;
        }

        /** Binds the values of a statement. */
        @FunctionalInterface
        private interface Binding {
            void bind(PreparedStatement statement) throws SQLException;
        }

        private Optional<String> bound(TypeName type, String written, String value, Way binding, Way reading) {
            return given(written, LogicalType.of(type), reading, s -> {
                        if (binding == Way.OBJECT) {
                            s.setObject(1, JavaTimeCells.value(type, value));
                        } else {
                            s.setString(1, DriverCells.written(value));
                        }
                    })
                    .flatMap(v -> v);
        }

        private Optional<String> cast(String literal, String written, LogicalType type, Way way) {
            return asked(literal, written, type, way, s -> {}).flatMap(v -> v);
        }

        private Optional<Optional<String>> given(String written, LogicalType type, Way way, Binding binding) {
            return asked("?", written, type, way, binding);
        }

        /** What comes back: nothing where it is refused, and a nothing in it for null. */
        private Optional<Optional<String>> asked(
                String value, String written, LogicalType type, Way way, Binding binding) {
            String sql = String.format(Locale.ROOT, form, value, written);
            if (way == Way.SERVER_TEXT) {
                sql = String.format(
                        Locale.ROOT, form, "CAST(" + value + " AS " + written + ")", "VARCHAR(" + SHORT + ")");
            }
            try (PreparedStatement statement = connection.prepareStatement(sql)) {
                binding.bind(statement);
                try (ResultSet row = statement.executeQuery()) {
                    row.next();
                    RecordBatch batch = new RecordBatch();
                    batch.start(1, "", "", false);
                    CellReader reader = DriverCells.reader(type, way);
                    reader.read(row, 1, batch);
                    batch.endRow(1);
                    return Optional.of(batch.isNull(0, 0) ? Optional.empty() : Optional.of(batch.text(0, 0)));
                }
            } catch (SQLException | InvalidValueException | RuntimeException | AbstractMethodError e) {
                // whatever a driver does with what it hasn't: the answer is that this way isn't one
                return Optional.empty();
            }
        }
    }
}
