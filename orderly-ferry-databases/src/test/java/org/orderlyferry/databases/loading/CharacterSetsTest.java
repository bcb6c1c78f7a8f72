package org.orderlyferry.databases.loading;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.charset.CharsetEncoder;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Locale;
import java.util.Random;
import java.util.Set;
import java.util.TreeSet;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import org.orderlyferry.databases.sql.EncodingNames;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TypeName;
import org.orderlyferry.place.LoadMode;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Places;
import org.orderlyferry.place.TargetPlace;
import org.orderlyferry.problem.BadValueException;
import org.orderlyferry.testkit.doubles.ListedPlace;
import org.orderlyferry.testkit.servers.Databases;
import org.orderlyferry.testkit.servers.TestSystem;
import org.orderlyferry.work.Export;
import org.orderlyferry.work.Load;
import org.orderlyferry.work.TransferResult;

/** What a target's character set hasn't is refused value by value, and what it has is let in: both are held against the server. */
class CharacterSetsTest {

    private static final int HERB = 0x1F33F;
    private static final int TRIED = 250;

    private static final List<String> ENCODINGS_OF_ONE_BYTE = List.of(
            "ISO_8859_5",
            "ISO_8859_6",
            "ISO_8859_7",
            "ISO_8859_8",
            "KOI8R",
            "KOI8U",
            "LATIN1",
            "LATIN2",
            "LATIN3",
            "LATIN4",
            "LATIN5",
            "LATIN7",
            "LATIN9",
            "LATIN10",
            "WIN866",
            "WIN874",
            "WIN1250",
            "WIN1251",
            "WIN1252",
            "WIN1253",
            "WIN1254",
            "WIN1255",
            "WIN1256",
            "WIN1257",
            "WIN1258");

    private static final TableDefinition LABEL = TableDefinition.named("label")
            .column(ColumnDefinition.named("id", LogicalType.of(TypeName.INTEGER))
                    .nullable(false)
                    .build())
            .column(ColumnDefinition.of("note", LogicalType.varchar(4)))
            .build();

    @TempDir
    private Path folder;

    /** Its characters as records, each with its number as key. */
    private static void loads(String url, String set, IntStream characters) throws Exception {
        List<List<String>> rows = characters
                .mapToObj(c -> List.of(String.valueOf(c), Character.toString(c)))
                .toList();
        Set<Integer> refused = new TreeSet<>();
        TransferResult result;
        try (TargetPlace target = Places.openTarget(url)) {
            result = Load.from(new ListedPlace().with(LABEL, rows))
                    .mode(LoadMode.APPEND)
                    .rejects(e -> {
                        BadValueException why = (BadValueException) e;
                        assertThat(why.getMessage()).endsWith("a character that " + set + " hasn't");
                        refused.add(why.value().codePointAt(0));
                    })
                    .into(target);
        }
        assertThat(result.rejected()).isEqualTo(refused.size()).isPositive();
        assertThat(result.rows()).isEqualTo(rows.size() - refused.size());
        try (Connection connection = Databases.connect(url);
                Statement statement = connection.createStatement()) {
            try (ResultSet row = statement.executeQuery("SELECT id, note FROM label")) {
                while (row.next()) {
                    assertThat(row.getString(2)).isEqualTo(Character.toString(row.getInt(1)));
                }
            }
            List<Integer> some = new ArrayList<>(refused);
            Collections.shuffle(some, new Random(set.hashCode()));
            assertThat(some.stream().limit(TRIED).filter(c -> takes(connection, c)))
                    .isEmpty();
        }
    }

    private static boolean takes(Connection connection, int character) {
        try (PreparedStatement insert = connection.prepareStatement("INSERT INTO label VALUES (?, ?)")) {
            insert.setInt(1, character);
            insert.setString(2, Character.toString(character));
            return insert.executeUpdate() == 1;
        } catch (SQLException e) {
            return false;
        }
    }

    @ParameterizedTest
    @ValueSource(strings = {"latin1", "cp866", "swe7", "sjis", "euckr", "utf8mb3"})
    void ofMariaDb(String set) throws Exception {
        String url = TestSystem.MARIADB.fresh(folder);
        Databases.run(
                url,
                "CREATE TABLE label (id INT PRIMARY KEY, note VARCHAR(4) CHARACTER SET " + set + " COLLATE " + set
                        + "_bin)");
        IntStream all = IntStream.rangeClosed(' ', 0xFFFF).filter(c -> !Character.isSurrogate((char) c));
        loads(url, set, IntStream.concat(all, IntStream.of(HERB)));
    }

    private String postgres(String encoding) throws SQLException {
        String url = TestSystem.POSTGRESQL.fresh(folder);
        String name = "set_" + encoding.toLowerCase(Locale.ROOT);
        Databases.run(
                url,
                "CREATE DATABASE " + name + " ENCODING '" + encoding
                        + "' LC_COLLATE 'C' LC_CTYPE 'C' TEMPLATE template0");
        String other = url.replaceFirst("(//[^/]*/)[^?]*", "$1" + name);
        Databases.run(other, "CREATE TABLE label (id INT PRIMARY KEY, note VARCHAR(4))");
        return other;
    }

    @ParameterizedTest
    @ValueSource(strings = {"EUC_CN", "EUC_KR", "LATIN10", "WIN1255"})
    void ofPostgresql(String encoding) throws Exception {
        CharsetEncoder java = EncodingNames.find(encoding).orElseThrow().newEncoder();
        Random random = new Random(encoding.hashCode());
        IntStream characters = IntStream.rangeClosed(' ', 0xFFFF)
                .filter(c -> !Character.isSurrogate((char) c))
                .filter(c -> java.canEncode((char) c) || random.nextInt(60) == 0);
        loads(postgres(encoding), encoding, IntStream.concat(characters, IntStream.of(HERB)));
    }

    /** Each byte beyond ASCII stands for the same character in both, or for none. */
    @Test
    void encodingsOfOneByteAreThoseOfJava() throws Exception {
        String url = TestSystem.POSTGRESQL.fresh(folder);
        Databases.run(
                url,
                "CREATE FUNCTION read(encoding name) RETURNS text LANGUAGE plpgsql AS $$ DECLARE all_of text := ''; BEGIN"
                        + " FOR b IN 128..255 LOOP BEGIN"
                        + " all_of := all_of || convert_from(decode(to_hex(b), 'hex'), encoding);"
                        + " EXCEPTION WHEN OTHERS THEN NULL; END; END LOOP; RETURN all_of; END $$");
        for (String encoding : ENCODINGS_OF_ONE_BYTE) {
            CharsetEncoder java = EncodingNames.find(encoding).orElseThrow().newEncoder();
            Set<Integer> characters = IntStream.rangeClosed(0x80, 0xFFFF)
                    .filter(c -> java.canEncode((char) c))
                    .boxed()
                    .collect(Collectors.toCollection(TreeSet::new));
            assertThat(Databases.rows(url, "SELECT read('" + encoding + "')")
                            .get(0)
                            .codePoints()
                            .boxed())
                    .as(encoding)
                    .containsExactlyInAnyOrderElementsOf(characters);
        }
    }

    /** An encoding that isn't known here is PostgreSQL's to judge, as before. */
    @Test
    void othersAreRefusedByTheServer() throws Exception {
        String url = postgres("EUC_JP");
        try (TargetPlace target = Places.openTarget(url)) {
            ListedPlace source = new ListedPlace().with(LABEL, List.of(List.of("1", "é"), List.of("2", "桜")));
            assertThat(Load.from(source).mode(LoadMode.APPEND).into(target).rows())
                    .isEqualTo(2);
        }
        assertThat(Databases.rows(url, "SELECT note FROM label ORDER BY id")).containsExactly("é", "桜");
    }

    /** A database that doesn't know its encoding may hold anything: what is no text is named with its record. */
    @Test
    void bytesThatAreNoTextAreNamed() throws Exception {
        String url = postgres("SQL_ASCII");
        String whole = Stream.of("ü", "桜", "", "plain").map(t -> "'" + t + "'").collect(Collectors.joining("), ("));
        Databases.run(
                url,
                "CREATE TABLE bed (id INT GENERATED ALWAYS AS IDENTITY PRIMARY KEY, note TEXT, code CHAR(9), of JSON)",
                "INSERT INTO bed (note) VALUES (" + whole + ")",
                "UPDATE bed SET code = note, of = to_json(note)");
        try (Place source = Places.open(url)) {
            Path set = folder.resolve("set");
            Export.from(source).tables("bed").to(set);
            assertThat(Files.readString(set.resolve("data/bed.csv")).replace("\r\n", "\n"))
                    .isEqualTo(
                            """
                            id,note,code,of
                            1,ü,"ü       ","\""ü""\"
                            2,桜,"桜      ","\""桜""\"
                            3,"","         ","\""\""\"
                            4,plain,"plain    ","\""plain""\"
                            """);
        }
        Databases.run(url, "DO $$ BEGIN EXECUTE 'INSERT INTO bed (note) VALUES (''na' || chr(239) || 've'')'; END $$");
        try (Place source = Places.open(url)) {
            assertThatThrownBy(() -> Export.from(source).tables("bed").to(folder.resolve("other")))
                    .hasMessageContainingAll("table bed", "id = 5", "column note", "'na\\xEFve' holds bytes");
        }
    }
}
