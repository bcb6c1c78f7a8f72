package org.orderlyferry.office.access;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import com.healthmarketscience.jackcess.ColumnBuilder;
import com.healthmarketscience.jackcess.DataType;
import com.healthmarketscience.jackcess.Database;
import com.healthmarketscience.jackcess.DatabaseBuilder;
import com.healthmarketscience.jackcess.PropertyMap;
import com.healthmarketscience.jackcess.Table;
import com.healthmarketscience.jackcess.TableBuilder;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import org.orderlyferry.model.ColumnDefault;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.FindingCode;
import org.orderlyferry.model.ForeignKey;
import org.orderlyferry.model.Identity;
import org.orderlyferry.model.IndexDefinition;
import org.orderlyferry.model.Key;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.ReferentialAction;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.model.TypeName;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Places;
import org.orderlyferry.place.TargetPlace;
import org.orderlyferry.problem.BadRecordException;
import org.orderlyferry.problem.BadValueException;
import org.orderlyferry.problem.FerryException;
import org.orderlyferry.reconcile.Reconcile;
import org.orderlyferry.record.Rejects;
import org.orderlyferry.testkit.doubles.ListedPlace;
import org.orderlyferry.work.Load;
import org.orderlyferry.work.TransferResult;

/** Desktop databases, as the library itself sees what was written, and as somebody else made them. */
class AccessFormatTest {

    @TempDir
    private Path folder;

    private static ListedPlace garden() {
        TableDefinition bed = TableDefinition.named(TableName.of("bed.old"))
                .column(ColumnDefinition.named("id", LogicalType.INTEGER)
                        .nullable(false)
                        .identity(Optional.of(new Identity(false, 1, 1, 3)))
                        .comment("counts by itself")
                        .build())
                .column(ColumnDefinition.named("na[me]", LogicalType.varchar(40))
                        .nullable(false)
                        .build())
                .column("made", LogicalType.DATE)
                .column("watered", LogicalType.of(TypeName.TIMESTAMP, 6))
                .column("large", LogicalType.BIGINT)
                .column("shady", LogicalType.BOOLEAN)
                .primaryKey("id")
                .unique(new Key("bed_name", List.of("na[me]")))
                .index(IndexDefinition.of("bed_made", false, List.of("made", "id")))
                .comment("where things grow")
                .build();
        TableDefinition plant = TableDefinition.named(TableName.of("plant"))
                .column(ColumnDefinition.named("bed", LogicalType.INTEGER)
                        .nullable(false)
                        .build())
                .column(ColumnDefinition.named("no", LogicalType.SMALLINT)
                        .nullable(false)
                        .build())
                .column("weight", LogicalType.decimal(12, 3))
                .column("guid", LogicalType.UUID)
                .column("notes", LogicalType.CLOB)
                .primaryKey("bed", "no")
                .foreignKey(new ForeignKey(
                        "plant_bed",
                        List.of("bed"),
                        TableName.of("bed.old"),
                        List.of("id"),
                        ReferentialAction.CASCADE,
                        ReferentialAction.CASCADE))
                .build();
        // records that refer to some come first
        List<String> first = new ArrayList<>(List.of("1", "1", "1.500"));
        first.add(null);
        first.add("");
        return new ListedPlace()
                .with(plant, List.of(first, List.of("2", "1", "0.001", "114955a1-d1b8-2695-4d43-4bff10aabbcc", "ü")))
                .with(
                        bed,
                        List.of(
                                List.of(
                                        "1",
                                        "moss",
                                        "0100-01-01",
                                        "2031-03-30T02:30:00.123456",
                                        "9223372036854775807",
                                        "true"),
                                List.of("2", "fern", "9999-12-31", "0001-01-01T00:00:00", "-1", "false")));
    }

    private TransferResult written(Path file, Place source, Rejects rejects) {
        try (TargetPlace target = Places.openTarget(file)) {
            return Load.from(source).rejects(rejects).into(target);
        }
    }

    @ParameterizedTest
    @ValueSource(strings = {"garden.accdb", "garden.mdb"})
    void keysRelationshipsAndRulesStandInTheFile(String name) throws Exception {
        Path file = folder.resolve(name);
        TransferResult result = written(file, garden(), Rejects.STOP);
        assertThat(result.findings())
                .extracting(f -> f.code())
                .contains(FindingCode.NAME_CHANGED, FindingCode.TYPE_CHANGED);
        try (Database database = new DatabaseBuilder(file).setReadOnly(true).open()) {
            Table bed = database.getTable("bed_old");
            assertThat(bed.getColumn("id").isAutoNumber()).isTrue();
            assertThat(bed.getColumn("na_me_").getProperties().getValue(PropertyMap.REQUIRED_PROP))
                    .isEqualTo(true);
            assertThat(bed.getPrimaryKeyIndex().getColumns()).hasSize(1);
            assertThat(bed.getIndex("bed_name").isUnique()).isTrue();
            assertThat(database.getRelationships()).singleElement().satisfies(r -> {
                assertThat(r.hasReferentialIntegrity()).isTrue();
                assertThat(r.cascadeDeletes()).isTrue();
                assertThat(r.getFromTable().getName()).isEqualTo("bed_old");
            });
        }
        // what a description beside it says isn't needed
        Files.delete(folder.resolve(name + "-metadata.json"));
        try (Place read = Places.open(file)) {
            assertThat(Reconcile.between(garden(), read).compare().isEqual()).isTrue();
            TableDefinition bed = read.define(TableName.of("bed.old"));
            assertThat(bed.columns()).extracting(c -> c.type()).contains(LogicalType.DATE, LogicalType.BIGINT);
            assertThat(bed.comment()).isEqualTo("where things grow");
            assertThat(bed.column("id").orElseThrow().identity()).isPresent();
            assertThat(bed.indexes()).hasSize(2);
            assertThat(read.define(TableName.of("plant")).foreignKeys())
                    .singleElement()
                    .satisfies(k -> assertThat(k.onDelete()).isEqualTo(ReferentialAction.CASCADE));
        }
    }

    @Test
    void whatAFileCantHoldIsRejectedAndTheRestIsThere() {
        TableDefinition label = TableDefinition.named(TableName.of("label"))
                .column("text", LogicalType.varchar(4))
                .column("day", LogicalType.DATE)
                .build();
        ListedPlace source = new ListedPlace()
                .with(
                        label,
                        List.of(
                                List.of("moss", "2031-04-09"),
                                List.of("\uFEFFab", "2031-04-09"),
                                List.of("fern", "0099-12-31"),
                                List.of("\uD83C\uDF3F\uD83C\uDF3F\uD83C\uDF3F", "2031-04-09")));
        List<FerryException> heard = new ArrayList<>();
        TransferResult result = written(folder.resolve("label.accdb"), source, heard::add);
        assertThat(result.rejected()).isEqualTo(3);
        assertThat(result.rows()).isEqualTo(1);
        assertThat(heard)
                .allMatch(e -> e instanceof BadValueException)
                .extracting(Throwable::getMessage)
                .anyMatch(m -> m.contains("U+FEFF"))
                .anyMatch(m -> m.contains("years 100 to 9999"))
                .anyMatch(m -> m.contains("6 units of UTF-16"));
    }

    @Test
    void whatSomebodyElseMadeIsReadAndNothingElseIsOpened() throws Exception {
        Path other = folder.resolve("other.accdb");
        new DatabaseBuilder(other)
                .setFileFormat(Database.FileFormat.V2010)
                .create()
                .close();
        Path file = folder.resolve("made.mdb");
        try (Database database = new DatabaseBuilder(file)
                .setFileFormat(Database.FileFormat.V2000)
                .create()) {
            database.setEvaluateExpressions(false);
            Table table = new TableBuilder("Herb Book")
                    .addColumn(new ColumnBuilder("No", DataType.LONG).setAutoNumber(true))
                    .addColumn(new ColumnBuilder("Price", DataType.MONEY)
                            .putProperty(PropertyMap.DEFAULT_VALUE_PROP, DataType.MEMO, "1.5"))
                    .addColumn(new ColumnBuilder("Kind", DataType.BYTE)
                            .putProperty(PropertyMap.VALIDATION_RULE_PROP, DataType.MEMO, "<9"))
                    .addColumn(new ColumnBuilder("Seen", DataType.SHORT_DATE_TIME)
                            .putProperty(PropertyMap.DEFAULT_VALUE_PROP, DataType.MEMO, "=Now()"))
                    .addColumn(new ColumnBuilder("Page", DataType.OLE))
                    .addColumn(new ColumnBuilder("True", DataType.BOOLEAN))
                    .toTable(database);
            table.addRow(null, new java.math.BigDecimal("12.3456"), (byte) 200, null, new byte[] {0, 1}, null);
            new TableBuilder("Rules")
                    .addColumn(new ColumnBuilder("Id", DataType.GUID).setAutoNumber(true))
                    .addColumn(new ColumnBuilder("Said", DataType.TEXT)
                            .putProperty(PropertyMap.ALLOW_ZERO_LEN_PROP, DataType.BOOLEAN, false))
                    .addColumn(new ColumnBuilder("Free", DataType.TEXT)
                            .putProperty(PropertyMap.ALLOW_ZERO_LEN_PROP, DataType.BOOLEAN, true))
                    .putProperty(PropertyMap.VALIDATION_RULE_PROP, DataType.MEMO, "[Said]<>[Free]")
                    .toTable(database);
            database.createLinkedTable("far", other.toString(), "none");
        }
        try (Place place = Places.open(file)) {
            assertThat(place.tables()).containsExactly(TableName.of("Herb Book"), TableName.of("Rules"));
            TableDefinition table = place.define(TableName.of("Herb Book"));
            assertThat(table.column("Price").orElseThrow().defaultValue()).isPresent();
            assertThat(table.column("True").orElseThrow().nullable()).isFalse();
            assertThat(place.leftBehind())
                    .extracting(l -> l.kind() + " " + l.name())
                    .containsExactlyInAnyOrder(
                            "linked table far",
                            "check Herb Book.Kind",
                            "default Herb Book.Seen",
                            "default Rules.Id",
                            "check Rules.Said",
                            "check Rules");
            ListedPlace wanted = new ListedPlace()
                    .with(table, List.of(java.util.Arrays.asList("1", "12.3456", "200", null, "AAE=", "false")))
                    .with(place.define(TableName.of("Rules")), List.of());
            assertThat(Reconcile.between(wanted, place).compare().tables())
                    .allSatisfy(t -> assertThat(t.differing()).isEmpty());
        }
    }

    /** The program whose file it is computes defaults; so what isn't a number is a text there, whoever has called it one. */
    @Test
    void aDefaultIsNeverAnExpression() throws Exception {
        TableDefinition bed = TableDefinition.named(TableName.of("bed"))
                .column(ColumnDefinition.named("id", LogicalType.INTEGER)
                        .defaultValue(Optional.of(new ColumnDefault.Literal("Shell(1)")))
                        .build())
                .column(ColumnDefinition.named("name", LogicalType.varchar(20))
                        .defaultValue(Optional.of(new ColumnDefault.Literal("=Now() & \"x\"")))
                        .build())
                .column(ColumnDefinition.named("height", LogicalType.decimal(6, 2))
                        .defaultValue(Optional.of(new ColumnDefault.Literal("-1.50")))
                        .build())
                .build();
        Path file = folder.resolve("bed.accdb");
        written(file, new ListedPlace().with(bed, List.of()), Rejects.STOP);
        try (Database database = new DatabaseBuilder(file).setReadOnly(true).open()) {
            assertThat(database.getTable("bed").getColumns())
                    .extracting(c -> c.getProperties().getValue(PropertyMap.DEFAULT_VALUE_PROP))
                    .containsExactly("\"Shell(1)\"", "\"=Now() & \"\"x\"\"\"", "-1.50");
        }
    }

    @Test
    void moreColumnsThanATableHasAreRefused() {
        TableDefinition.Builder wide = TableDefinition.named(TableName.of("wide"));
        for (int i = 0; i < 256; i++) {
            wide.column("c" + i, LogicalType.INTEGER);
        }
        ListedPlace source = new ListedPlace().with(wide.build(), List.of());
        Path file = folder.resolve("wide.accdb");
        assertThatThrownBy(() -> written(file, source, Rejects.STOP)).hasMessageContaining("255 columns");
        assertThat(file).doesNotExist();
    }

    /** Whoever wrote a long comment doesn't keep the table from being made. */
    @Test
    void whatIsSaidOfATableGoesAsFarAsThereIsRoom() {
        String comment = "a bed of moss 🌱".repeat(40);
        TableDefinition bed = TableDefinition.named(TableName.of("bed"))
                .comment(comment)
                .column(ColumnDefinition.named("name", LogicalType.CLOB)
                        .comment(comment)
                        .defaultValue(Optional.of(new ColumnDefault.Literal(comment)))
                        .build())
                .build();
        String file = folder.resolve("garden.accdb").toString();
        TransferResult result;
        try (TargetPlace target = Places.openTarget(file)) {
            result = Load.from(new ListedPlace().with(bed, List.of(List.of("moss"))))
                    .into(target);
        }
        assertThat(result.leftBehind())
                .extracting(l -> l.kind() + " " + l.name())
                .containsExactlyInAnyOrder("ends of comments bed", "ends of comments bed.name", "default bed.name");
        // the description beside it has all of them
        try (Place place = Places.open(file)) {
            assertThat(place.define(TableName.of("bed")).comment()).isEqualTo(comment);
        }
        folder.resolve("garden.accdb-metadata.json").toFile().delete();
        try (Place place = Places.open(file)) {
            assertThat(comment).startsWith(place.define(TableName.of("bed")).comment());
            assertThat(place.define(TableName.of("bed")).comment()).hasSizeBetween(250, 255);
        }
    }

    /** The library makes the whole table or none, so what is too much is left out before. */
    @Test
    void moreIndexesThanATableHasAreLeftBehindByName() {
        TableDefinition.Builder bed = TableDefinition.named(TableName.of("bed"));
        List<String> eleven = new ArrayList<>();
        for (int i = 0; i < 40; i++) {
            bed.column("c" + i, LogicalType.INTEGER);
            bed.index(IndexDefinition.of("one" + i, false, List.of("c" + i)));
            if (i < 11) {
                eleven.add("c" + i);
            }
        }
        bed.unique(new Key("many", eleven));
        String file = folder.resolve("garden.accdb").toString();
        TransferResult result;
        try (TargetPlace target = Places.openTarget(file)) {
            result = Load.from(new ListedPlace().with(bed.build(), List.of())).into(target);
        }
        assertThat(result.leftBehind())
                .hasSize(9)
                .extracting(l -> l.name())
                .contains("bed.many", "bed.one39")
                .doesNotContain("bed.one31");
    }

    /** In which order a reference's columns stand is all the same to it, and not to the library. */
    @Test
    void aReferenceByColumnsInAnotherOrderIsOne() {
        TableDefinition soil = TableDefinition.named(TableName.of("soil"))
                .column("a", LogicalType.INTEGER)
                .column("b", LogicalType.INTEGER)
                .index(IndexDefinition.of("soil_ab", true, List.of("a", "b")))
                .build();
        TableDefinition bed = TableDefinition.named(TableName.of("bed"))
                .column("x", LogicalType.INTEGER)
                .column("y", LogicalType.INTEGER)
                .foreignKey(reference("turned", List.of("x", "y"), List.of("b", "a")))
                .foreignKey(reference("nowhere", List.of("x"), List.of("depth")))
                .build();
        ListedPlace source =
                new ListedPlace().with(soil, List.of(List.of("1", "2"))).with(bed, List.of(List.of("2", "1")));
        TransferResult result = written(folder.resolve("garden.accdb"), source, Rejects.STOP);
        assertThat(result.leftBehind()).singleElement().satisfies(l -> {
            assertThat(l.name()).isEqualTo("bed.nowhere");
            assertThat(l.reason()).contains("a column of soil that isn't there");
        });
    }

    private static ForeignKey reference(String name, List<String> columns, List<String> targets) {
        return new ForeignKey(
                name, columns, TableName.of("soil"), targets, ReferentialAction.NO_ACTION, ReferentialAction.NO_ACTION);
    }

    /** A bed and its plants, of which the file refuses some: letters' case makes no difference to its keys. */
    private static ListedPlace refused() {
        TableDefinition bed = TableDefinition.named(TableName.of("bed"))
                .column(ColumnDefinition.named("id", LogicalType.varchar(5))
                        .nullable(false)
                        .build())
                .column("depth", LogicalType.of(TypeName.SMALLINT))
                .column("sort", LogicalType.INTEGER)
                .primaryKey("id")
                .unique(new Key("", List.of("sort")))
                .build();
        TableDefinition plant = TableDefinition.named(TableName.of("plant"))
                .column(ColumnDefinition.named("no", LogicalType.INTEGER)
                        .nullable(false)
                        .build())
                .column("bed", LogicalType.varchar(5))
                .primaryKey("no")
                .foreignKey(new ForeignKey(
                        "plant_bed",
                        List.of("bed"),
                        TableName.of("bed"),
                        List.of("id"),
                        ReferentialAction.NO_ACTION,
                        ReferentialAction.NO_ACTION))
                .build();
        return new ListedPlace()
                .with(
                        bed,
                        List.of(
                                List.of("a", "1", "1"),
                                List.of("b", "2", "2"),
                                List.of("A", "3", "3"),
                                List.of("c", "4", "2"),
                                List.of("d", "5", "5"),
                                List.of("D", "6", "6")))
                .with(plant, List.of(List.of("1", "a"), List.of("2", "c"), List.of("1", "b")));
    }

    @Test
    void recordsThatBreakKeysAreRejectedAndOthersAreIn() throws Exception {
        Path file = folder.resolve("garden.accdb");
        List<String> rejected = new ArrayList<>();
        TransferResult result = written(file, refused(), e -> rejected.add(e.getMessage()));
        assertThat(rejected)
                .hasSize(4)
                .allMatch(m -> m.contains("a record before it has the same key"))
                .anyMatch(m -> m.contains("id = A"))
                .anyMatch(m -> m.contains("id = c"))
                .anyMatch(m -> m.contains("id = D"))
                .anyMatch(m -> m.contains("no = 1"));
        assertThat(result.rows()).isEqualTo(5);
        // a plant stands in a bed that was rejected: the relationship is there, and the application doesn't enforce it
        assertThat(result.leftBehind()).singleElement().satisfies(l -> assertThat(l.toString())
                .contains("referential integrity", "plant", "isn't kept"));
        try (Database database = new DatabaseBuilder(file).setReadOnly(true).open()) {
            assertThat(database.getTable("bed").getRowCount()).isEqualTo(3);
            assertThat(database.getTable("plant").getRowCount()).isEqualTo(2);
            assertThat(database.getRelationships())
                    .singleElement()
                    .satisfies(r -> assertThat(r.hasReferentialIntegrity()).isFalse());
        }
    }

    @Test
    void aRecordThatBreaksAKeyEndsALoadByItsName() {
        Path file = folder.resolve("garden.accdb");
        assertThatThrownBy(() -> written(file, refused(), Rejects.STOP))
                .isInstanceOf(BadRecordException.class)
                .hasMessageContaining("id = A")
                .hasMessageContaining("letters");
        assertThat(file).doesNotExist();
    }
}
