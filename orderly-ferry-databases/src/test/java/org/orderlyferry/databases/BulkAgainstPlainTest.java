package org.orderlyferry.databases;

import static org.assertj.core.api.Assertions.assertThat;

import java.math.BigDecimal;
import java.math.BigInteger;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Types;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Base64;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.ServiceLoader;
import java.util.stream.Collectors;
import net.jqwik.api.Arbitraries;
import net.jqwik.api.Arbitrary;
import net.jqwik.api.Combinators;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.Provide;
import net.jqwik.api.lifecycle.AfterContainer;
import org.orderlyferry.databases.dialect.Dialect;
import org.orderlyferry.databases.dialect.OutOfRangeCells;
import org.orderlyferry.databases.dialect.Session;
import org.orderlyferry.databases.lane.BatchWriter;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TypeName;
import org.orderlyferry.place.OpenOptions;
import org.orderlyferry.place.PlaceAddress;
import org.orderlyferry.place.Places;
import org.orderlyferry.place.Slice;
import org.orderlyferry.place.TargetPlace;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordReader;
import org.orderlyferry.record.RecordWriter;
import org.orderlyferry.record.text.JavaValues;
import org.orderlyferry.testkit.doubles.Contents;
import org.orderlyferry.testkit.doubles.ListedPlace;
import org.orderlyferry.testkit.herbarium.HostileTexts;
import org.orderlyferry.testkit.servers.TestSystem;
import org.orderlyferry.work.Load;

/**
 * The bulk lanes, in and out, against the plain ways that every client has: generated records go in both ways, and the server
 * itself says whether they are the same; they come out by the lane, and as the server writes its values as text.
 */
class BulkAgainstPlainTest {

    private static final TableDefinition FAST = TableDefinition.named("fast")
            .column(ColumnDefinition.named("id", LogicalType.INTEGER)
                    .nullable(false)
                    .build())
            .column("note", LogicalType.varchar(200))
            .column("size", LogicalType.decimal(30, 9))
            .column("many", LogicalType.BIGINT)
            .column("few", LogicalType.SMALLINT)
            .column("ratio", LogicalType.DOUBLE)
            .column("single", LogicalType.REAL)
            .column("day", LogicalType.DATE)
            .column("moment", LogicalType.of(TypeName.TIMESTAMP, 6))
            .column("hour", LogicalType.of(TypeName.TIME, 6))
            .column("dry", LogicalType.BOOLEAN)
            .column("scan", LogicalType.BLOB)
            .build();

    private static final TableDefinition SLOW =
            FAST.toBuilder().name(org.orderlyferry.model.TableName.of("slow")).build();

    private static final Map<String, Session> SESSIONS = new HashMap<>();

    @AfterContainer
    static void end() {
        SESSIONS.values().forEach(Session::close);
        SESSIONS.clear();
    }

    private static Session session(TestSystem system) {
        return SESSIONS.computeIfAbsent(system.toString(), name -> {
            String url = system.fresh(Path.of("target"));
            try (TargetPlace target = Places.openTarget(url)) {
                Load.from(new ListedPlace().with(FAST, List.of()).with(SLOW, List.of()))
                        .into(target);
            }
            Dialect dialect = ServiceLoader.load(Dialect.class).stream()
                    .map(ServiceLoader.Provider::get)
                    .filter(d -> d.system().equals(name))
                    .findFirst()
                    .orElseThrow();
            try {
                Connection connection = dialect.connect(PlaceAddress.of(url), OpenOptions.DEFAULT, true)
                        .orElseThrow();
                connection.setAutoCommit(false);
                return new Session(url, dialect, connection, t -> t);
            } catch (SQLException e) {
                throw new IllegalStateException(e);
            }
        });
    }

    @Provide
    Arbitrary<List<List<String>>> records() {
        Arbitrary<String> notes = Arbitraries.oneOf(
                        Arbitraries.of(HostileTexts.ALL),
                        Arbitraries.of("\\", "\\N", "\\.", "\t", "\n", "\r\n", "\\\\n", "'", "\"", "\u0001", "\u001a"),
                        Arbitraries.strings().ofMaxLength(20))
                .filter(t -> t.length() <= 200
                        && t.indexOf('\0') < 0
                        && t.chars().noneMatch(c -> Character.isSurrogate((char) c) && t.length() == 1)
                        && StandardCharsets.UTF_8.newEncoder().canEncode(t));
        Arbitrary<String> sizes = Arbitraries.bigIntegers()
                .between(BigInteger.TEN.pow(29).negate(), BigInteger.TEN.pow(29))
                .map(i -> new BigDecimal(i, 9).stripTrailingZeros().toPlainString());
        Arbitrary<String> ratios = Arbitraries.doubles()
                // MariaDB holds neither what is too small to be exact nor negative nothing
                .filter(d -> d == 0 || Math.abs(d) > 1e-300)
                .map(d -> JavaValues.text(d + 0.0));
        Arbitrary<String> singles =
                Arbitraries
                        .floats() // nor does it take the very largest as a text; that the lane does stands in the test
                        // of types
                        .filter(f -> f == 0 || Math.abs(f) > 1e-30f && Math.abs(f) < 1e38f)
                        .map(f -> JavaValues.text(f + 0.0f));
        Arbitrary<String> days = Arbitraries.longs()
                .between(
                        LocalDate.of(1, 1, 1).toEpochDay(),
                        LocalDate.of(9999, 12, 31).toEpochDay())
                .map(d -> JavaValues.text(LocalDate.ofEpochDay(d)));
        Arbitrary<String> moments = Combinators.combine(
                        Arbitraries.longs().between(-60_000_000_000L, 250_000_000_000L),
                        Arbitraries.integers().between(0, 999_999))
                .as((s, micros) -> JavaValues.text(LocalDateTime.ofEpochSecond(s, micros * 1_000, ZoneOffset.UTC)));
        Arbitrary<String> hours = Arbitraries.longs()
                .between(0, 86_399_999_999L)
                .map(micros -> JavaValues.text(java.time.LocalTime.ofNanoOfDay(micros * 1_000)));
        Arbitrary<String> scans = Arbitraries.bytes()
                .array(byte[].class)
                .ofMaxSize(30)
                .map(b -> Base64.getEncoder().encodeToString(b));
        List<Arbitrary<String>> columns = List.of(
                Arbitraries.integers().map(String::valueOf),
                notes.injectNull(0.1),
                sizes.injectNull(0.1),
                Arbitraries.longs().map(String::valueOf).injectNull(0.1),
                Arbitraries.shorts().map(String::valueOf).injectNull(0.1),
                ratios.injectNull(0.1),
                singles.injectNull(0.1),
                days.injectNull(0.1),
                moments.injectNull(0.1),
                hours.injectNull(0.1),
                Arbitraries.of("true", "false").injectNull(0.1),
                scans.injectNull(0.1));
        return Combinators.combine(columns)
                .as(values -> (List<String>) new ArrayList<>(values))
                .list()
                .ofMaxSize(12);
    }

    @Provide
    Arbitrary<TestSystem> lanes() {
        return Arbitraries.of(TestSystem.POSTGRESQL, TestSystem.MARIADB);
    }

    /** What a value is cast from, in the plain way: a text, and bytes for bytes. */
    private static String mark(TestSystem system, ColumnDefinition column) {
        if (system == TestSystem.MARIADB) {
            return "?";
        }
        return switch (column.type().name()) {
            case BLOB -> "?";
            case DOUBLE -> "?::text::double precision";
            case BOOLEAN -> "?::text::boolean";
            default -> "?::text::" + column.type().toString().replace(" VARYING", " varying");
        };
    }

    private static RecordWriter plain(TestSystem system, Session session) throws SQLException {
        String marks = SLOW.columns().stream().map(c -> mark(system, c)).collect(Collectors.joining(", "));
        return new BatchWriter(
                session,
                "INSERT INTO slow VALUES (" + marks + ")",
                SLOW,
                SLOW.name(),
                false,
                column -> (statement, index, batch, row, i) -> {
                    if (column.type().name().isBinary()) {
                        statement.setBytes(index, batch.copy(row, i));
                    } else if (column.type().name() == TypeName.BOOLEAN && system == TestSystem.MARIADB) {
                        statement.setInt(index, batch.text(row, i).equals("true") ? 1 : 0);
                    } else {
                        statement.setObject(index, batch.text(row, i), Types.VARCHAR);
                    }
                });
    }

    private static RecordWriter lane(Session session) throws SQLException {
        // as a load has it: the table as the system holds it
        TableDefinition there = session.catalogue()
                .define(session.catalogue().tables().stream()
                        .filter(t -> t.name().equals("fast"))
                        .findFirst()
                        .orElseThrow());
        return session.dialect().writing().writer(session, there, FAST.name());
    }

    private static void write(ListedPlace records, TableDefinition table, RecordWriter writer) {
        RecordBatch batch = new RecordBatch();
        try (writer;
                RecordReader reader = records.read(Slice.whole(table))) {
            while (reader.read(batch)) {
                writer.write(batch);
            }
            writer.finish();
        }
    }

    @Property(tries = 150, seed = "417")
    void theLaneHoldsWhatPlainInsertsHold(
            @ForAll("lanes") TestSystem system, @ForAll("records") List<List<String>> records) throws SQLException {
        Session session = session(system);
        session.execute("DELETE FROM fast");
        session.execute("DELETE FROM slow");
        write(new ListedPlace().with(FAST, records), FAST, lane(session));
        write(new ListedPlace().with(SLOW, records), SLOW, plain(system, session));
        assertThat(session.count(FAST.name())).isEqualTo(records.size());
        for (List<TableDefinition> pair : List.of(List.of(FAST, SLOW), List.of(SLOW, FAST))) {
            assertThat(session.value("SELECT COUNT(*) FROM (SELECT * FROM "
                            + pair.get(0).name() + " EXCEPT SELECT * FROM "
                            + pair.get(1).name() + ") d"))
                    .as(records.toString())
                    .contains("0");
        }
    }

    /** How a server is asked for its own text of a value. */
    private static String asText(ColumnDefinition column) {
        return column.type().name().isBinary() ? "encode(" + column.name() + ", 'base64')" : column.name() + "::text";
    }

    /** The server's text of a value, in the words of the value text: another sign between date and time, and of the exponent. */
    private static String inOurWords(ColumnDefinition column, String text) {
        if (text == null) {
            return null;
        }
        return switch (column.type().name()) {
            case TIMESTAMP -> text.replace(' ', 'T');
            case BLOB -> text.replace("\n", "");
            default -> text;
        };
    }

    @Property(tries = 100, seed = "417")
    void whatIsReadAsBinaryIsWhatTheServerWritesAsText(@ForAll("records") List<List<String>> records)
            throws SQLException {
        Session session = session(TestSystem.POSTGRESQL);
        session.execute("DELETE FROM fast");
        write(new ListedPlace().with(FAST, records), FAST, lane(session));
        List<List<String>> lane = Contents.of(session.dialect()
                .reading()
                .bulk(session, FAST, " FROM fast", OutOfRangeCells.refusing(FAST))
                .orElseThrow());
        List<List<String>> text = new ArrayList<>();
        String list = FAST.columns().stream().map(BulkAgainstPlainTest::asText).collect(Collectors.joining(", "));
        session.query().each("SELECT " + list + " FROM fast", row -> {
            String[] values = new String[FAST.columns().size()];
            for (int i = 0; i < values.length; i++) {
                values[i] = inOurWords(FAST.columns().get(i), row.getString(i + 1));
            }
            text.add(Arrays.asList(values));
        });
        assertThat(Contents.sorted(lane, FAST)).isEqualTo(Contents.sorted(text, FAST));
        assertThat(Contents.sorted(lane, FAST)).isEqualTo(Contents.sorted(records, FAST));
    }
}
