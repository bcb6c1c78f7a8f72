package org.orderlyferry.matrix;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.node.ObjectNode;
import com.mongodb.client.MongoClient;
import com.mongodb.client.MongoClients;
import java.math.BigDecimal;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import org.bson.Document;
import org.bson.types.Decimal128;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.LoadMode;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Places;
import org.orderlyferry.place.TargetPlace;
import org.orderlyferry.place.ViewColumn;
import org.orderlyferry.problem.UsageException;
import org.orderlyferry.testkit.servers.Databases;
import org.orderlyferry.testkit.servers.LocalDocuments;
import org.orderlyferry.testkit.servers.TestSystem;
import org.orderlyferry.view.DocumentViews;
import org.orderlyferry.view.MadeView;
import org.orderlyferry.view.ProposedViews;
import org.orderlyferry.work.Load;

/** What stands in documents, seen through views of four systems. */
class DocumentViewsTest {

    private static final ObjectMapper JSON = new ObjectMapper();

    @TempDir
    private Path folder;

    private String source(String... documents) throws Exception {
        String url = "jdbc:sqlite:" + folder.resolve("source-" + System.nanoTime() + ".sqlite");
        try (Connection connection = Databases.connect(url)) {
            connection.createStatement().execute("CREATE TABLE sheet(no INTEGER PRIMARY KEY, document JSON)");
            PreparedStatement insert = connection.prepareStatement("INSERT INTO sheet VALUES(?, ?)");
            for (int i = 0; i < documents.length; i++) {
                insert.setInt(1, i);
                insert.setString(2, documents[i]);
                insert.execute();
            }
        }
        return url;
    }

    private static MadeView loaded(String from, String to, String... paths) {
        try (Place source = Places.open(from);
                TargetPlace target = Places.openTarget(to)) {
            ProposedViews views =
                    DocumentViews.over(source).paths(List.of(paths)).propose(target);
            Load.from(source).into(target);
            List<MadeView> made = views.make(target, true);
            assertThat(made).hasSize(1);
            return made.get(0);
        }
    }

    private static ViewColumn column(MadeView made, String path) {
        return made.view().columns().stream()
                .filter(c -> String.join(".", c.path()).equals(path))
                .findFirst()
                .orElseThrow(() -> new AssertionError(path + " isn't in " + made));
    }

    private static List<String> shown(TestSystem system, String url, MadeView made, ViewColumn column)
            throws Exception {
        List<String> values = new ArrayList<>();
        try (Connection connection = Databases.connect(url);
                ResultSet result = connection
                        .createStatement()
                        .executeQuery("SELECT " + system.quote(column.name()) + " FROM "
                                + system.quote(made.view().name().name()) + " ORDER BY " + system.quote("no"))) {
            while (result.next()) {
                values.add(result.getString(1));
            }
        }
        return values;
    }

    @ParameterizedTest
    @EnumSource
    void documentsOfAStoreAreGroupedByAPath(TestSystem system) throws Exception {
        String to = system.fresh(folder);
        MadeView made;
        try (LocalDocuments server = LocalDocuments.start()) {
            String store = server.url("herbarium");
            try (MongoClient client = MongoClients.create(store)) {
                List<Document> sheets = new ArrayList<>();
                for (int i = 0; i < 300; i++) {
                    sheets.add(new Document("_id", i)
                            .append("place", new Document("hall", "Hall " + i % 3).append("shelf", i))
                            .append("count", i % 2 == 0 ? (Object) i : (Object) (long) i)
                            .append("weight", new Decimal128(new BigDecimal(i).movePointLeft(2)))
                            .append("on", new java.util.Date(1_000L * i))
                            .append("labels", List.of("a", i)));
                }
                client.getDatabase("herbarium").getCollection("sheet").insertMany(sheets);
            }
            made = loaded(store + "?form=whole", to);
        }
        assertThat(made.isMade()).isTrue();
        assertThat(made.isProven()).isTrue();
        assertThat(made.leftBehind()).isEmpty();
        assertThat(made.view().name().name()).isEqualTo("sheet_fields");
        assertThat(column(made, "place.shelf").type()).isEqualTo(LogicalType.INTEGER);
        assertThat(column(made, "count").type()).isEqualTo(LogicalType.BIGINT);
        assertThat(column(made, "weight").type()).isEqualTo(LogicalType.decimal(3, 2));
        String hall = system.quote("place.hall");
        assertThat(Databases.rows(
                        to,
                        "SELECT " + hall + ", COUNT(*), SUM(" + system.quote("count") + "), MAX("
                                + system.quote("place.shelf") + ") FROM " + system.quote("sheet_fields") + " GROUP BY "
                                + hall + " ORDER BY " + hall))
                .containsExactly("Hall 0 100 14850 297", "Hall 1 100 14950 298", "Hall 2 100 15050 299");
        assertThat(Databases.rows(to, "SELECT MAX(" + system.quote("on") + ") FROM " + system.quote("sheet_fields"))
                        .get(0)
                        .replace('T', ' '))
                .startsWith("1970-01-01 00:04:59");
    }

    @ParameterizedTest
    @EnumSource
    void everyTextAndNumberIsShownAsItIsBehindAnyName(TestSystem system) throws Exception {
        List<String> names = List.of(
                "plain",
                "with \"quotes\"",
                "it's",
                "back\\slash",
                "a.b",
                "$money",
                "1",
                "é🌿",
                " ",
                "[0]",
                "#>>",
                "--");
        String[] texts = {
            "", "'; DROP TABLE sheet; --", "\\", "\\n", "\"", "null", "a\nb\tc\r\u0001\u007f", "é🌿\u2028", "{\"$x\":1}"
        };
        Random random = new Random(7);
        List<ObjectNode> documents = new ArrayList<>();
        for (int i = 0; i < 60; i++) {
            ObjectNode document = JSON.createObjectNode();
            ObjectNode inner = document.put("first", true).putObject("in \"it\\");
            for (String name : names) {
                int kind = random.nextInt(10);
                if (kind == 0) {
                    inner.putNull(name);
                } else if (kind > 1) {
                    inner.put(name, texts[random.nextInt(texts.length)] + (kind > 5 ? i : ""));
                }
            }
            inner.put("number", new BigDecimal(random.nextLong()).movePointLeft(random.nextInt(15)));
            documents.add(document);
        }
        String to = system.fresh(folder);
        MadeView made =
                loaded(source(documents.stream().map(ObjectNode::toString).toArray(String[]::new)), to);
        // MariaDB takes a minus for the beginning of a number, wherever it stands
        assertThat(made.leftBehind()).hasSize(system == TestSystem.MARIADB ? 1 : 0);
        for (String name : names) {
            if (system == TestSystem.MARIADB && name.equals("--")) {
                assertThat(made.leftBehind().get(0).toString()).contains("--: shows 0 values of");
                continue;
            }
            List<String> expected = documents.stream()
                    .map(d -> d.path("in \"it\\").path(name).textValue())
                    .toList();
            assertThat(shown(system, to, made, column(made, "in \"it\\." + name)))
                    .as(name)
                    .isEqualTo(expected);
        }
        List<String> numbers = shown(system, to, made, column(made, "in \"it\\.number"));
        for (int i = 0; i < numbers.size(); i++) {
            assertThat(new BigDecimal(numbers.get(i)))
                    .isEqualByComparingTo(
                            documents.get(i).path("in \"it\\").path("number").decimalValue());
        }
    }

    @ParameterizedTest
    @EnumSource
    void whatHasNoOneTypeIsShownAsJsonAndWhatCantBeShownIsTold(TestSystem system) throws Exception {
        String to = system.fresh(folder);
        MadeView made = loaded(
                source(
                        "{\"mixed\":1,\"object\":{\"x\":1},\"list\":[1],\"id\":{\"$oid\":\"0123456789abcdef01234567\"}}",
                        "{\"mixed\":\"1\",\"object\":5,\"list\":null,\"long\":{\"$numberLong\":\"five\"},\"none\":null}",
                        "[1]",
                        "\"5\"",
                        "{\"old\":{\"$date\":\"0000-01-01T00:00:00Z\"},\"huge\":1e999999999}"),
                to);
        assertThat(made.isMade()).isTrue();
        assertThat(column(made, "mixed").type()).isEqualTo(LogicalType.JSON);
        assertThat(shown(system, to, made, column(made, "mixed"))).containsExactly("1", "\"1\"", null, null, null);
        assertThat(shown(system, to, made, column(made, "object")).get(1)).isEqualTo("5");
        assertThat(shown(system, to, made, column(made, "list"))).containsExactly("[1]", null, null, null, null);
        assertThat(shown(system, to, made, column(made, "id"))).startsWith("0123456789abcdef01234567");
        assertThat(column(made, "old").type()).isEqualTo(LogicalType.JSON);
        assertThat(column(made, "huge").type()).isEqualTo(LogicalType.JSON);
        assertThat(column(made, "none").values()).isZero();
        assertThat(column(made, "long").type()).isEqualTo(LogicalType.JSON);
    }

    @ParameterizedTest
    @EnumSource
    void pathsAreChosenAndNothingBeginsWhereOneIsntThere(TestSystem system) throws Exception {
        String from = source("{\"place\":{\"hall\":\"A\",\"shelf\":1},\"kind\":\"x\"}");
        String to = system.fresh(folder);
        assertThatThrownBy(() -> loaded(from, to, "place.hal"))
                .isInstanceOf(UsageException.class)
                .hasMessageContaining("place.hall");
        MadeView made = loaded(from, to, "place.hall", "kind");
        assertThat(made.view().columns()).extracting(ViewColumn::name).containsExactly("place.hall", "kind");
        Databases.run(to, "DROP VIEW " + system.quote("sheet_fields"), "DROP TABLE " + system.quote("sheet"));
        Databases.run(to, "CREATE TABLE " + system.quote("sheet_fields") + "(a INT)");
        assertThatThrownBy(() -> loaded(from, to))
                .isInstanceOf(UsageException.class)
                .hasMessageContaining("sheet_fields");
        Databases.run(to, "DROP TABLE " + system.quote("sheet_fields"));
        Databases.run(to, "CREATE VIEW " + system.quote("sheet_fields") + " AS SELECT 1 AS a");
        MadeView refused = loaded(from, to);
        assertThat(refused.isMade()).isFalse();
        assertThat(refused.leftBehind()).hasSize(1);
        assertThat(refused.leftBehind().get(0).toString()).contains("view", "sheet_fields");
        try (Place target = Places.open(to)) {
            assertThat(target.count(TableName.of("sheet"))).isOne();
        }
    }

    @ParameterizedTest
    @EnumSource
    void whatADatabaseCantReadIsToldOnce(TestSystem system) throws Exception {
        MadeView made = loaded(source("{\"a\":1,\"b\":\"x\\u0000y\"}", "{\"a\":2}"), system.fresh(folder));
        boolean reads = system != TestSystem.POSTGRESQL;
        assertThat(made.isMade()).isEqualTo(reads);
        if (!reads) {
            assertThat(made.leftBehind()).hasSize(2);
            assertThat(made.leftBehind().get(0).toString())
                    .contains("columns sheet_fields.a, b: can't be read", "\\u0000");
            assertThat(made.leftBehind().get(1).toString()).contains("view sheet_fields", "nothing of the documents");
        }
    }

    @ParameterizedTest
    @EnumSource
    void aViewStaysOverATableThatIsReplaced(TestSystem system) throws Exception {
        String from = source("{\"a\":1}", "{\"a\":2}");
        String to = system.fresh(folder);
        loaded(from, to);
        Databases.run(to, "DELETE FROM " + system.quote("sheet"));
        try (Place source = Places.open(from);
                TargetPlace target = Places.openTarget(to)) {
            Load.from(source).mode(LoadMode.REPLACE).into(target);
        }
        assertThat(Databases.rows(
                        to, "SELECT " + system.quote("a") + " FROM " + system.quote("sheet_fields") + " ORDER BY 1"))
                .containsExactly("1", "2");
    }
}
