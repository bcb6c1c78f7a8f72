package org.orderlyferry.documents.mongodb;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import org.bson.codecs.BsonDocumentCodec;
import org.bson.types.ObjectId;
import org.junit.jupiter.api.Test;
import org.orderlyferry.documents.bson.ColumnCells;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.problem.BadValueException;
import org.orderlyferry.record.RecordBatch;

/** Documents that are written in bytes are those that are made of values. */
class RawRecordsTest {

    private static final List<String> NAMES =
            List.of("a", "b", "a.x", "a.y", "a.y.z", "b.c.d", "b.c.e", "Größe", " ", "x.", ".x", "c.d", "a.y.q");

    private static final List<String> KEYS = List.of("_id", "_id.p", "_id.q", "_id.q.r");

    private static final ObjectId GENERATED = GeneratedId.of(1, 2, 3);

    private static LoadTable table(List<ColumnDefinition> columns, boolean writesNulls) {
        TableDefinition table = TableDefinition.named("sheet").columns(columns).build();
        return new LoadTable(
                table, table, new LoadNote.Part("sheet", Optional.empty(), 1), writesNulls, Optional.empty());
    }

    private static List<ColumnCells> cells(List<ColumnDefinition> columns) {
        return columns.stream().map(c -> new ColumnCells(c, "")).toList();
    }

    private static String made(DocumentMaker maker, RecordBatch batch) {
        try {
            return maker.document(batch, 0, GENERATED)
                    .decode(new BsonDocumentCodec())
                    .toString();
        } catch (BadValueException e) {
            return "refused: " + e.getMessage();
        }
    }

    @Property(tries = 1000)
    void itIsTheDocumentOfItsValues(@ForAll Random random) {
        Set<String> names = new LinkedHashSet<>();
        if (random.nextInt(4) > 0) {
            for (int i = random.nextInt(3); i >= 0; i--) {
                names.add(KEYS.get(random.nextInt(KEYS.size())));
            }
        }
        for (int i = random.nextInt(6); i >= 0; i--) {
            names.add(NAMES.get(random.nextInt(NAMES.size())));
        }
        List<ColumnDefinition> columns = new ArrayList<>();
        RecordBatch batch = new RecordBatch();
        batch.start(names.size(), "sheet", "test", true);
        for (String name : names) {
            boolean json = random.nextBoolean();
            columns.add(ColumnDefinition.of(name, json ? LogicalType.JSON : LogicalType.INTEGER));
            if (random.nextInt(3) == 0) {
                batch.addNull();
            } else {
                String text = json ? List.of("{\"x\":1}", "[1]", "null", "5").get(random.nextInt(4)) : "7";
                batch.add(text.getBytes(StandardCharsets.UTF_8));
            }
        }
        batch.endRow(1);
        LoadTable table = table(columns, random.nextBoolean());
        assertThat(made(table.maker(), batch)).isEqualTo(made(new ValueRecords(table, cells(columns)), batch));
    }

    @Test
    void oneColumnAPlaceIsWrittenInBytes() {
        List<ColumnDefinition> columns = List.of(
                ColumnDefinition.of("_id.p", LogicalType.INTEGER),
                ColumnDefinition.of("a.x", LogicalType.INTEGER),
                ColumnDefinition.of("a.y", LogicalType.INTEGER),
                ColumnDefinition.of("b", LogicalType.INTEGER));
        assertThat(RawRecords.of(table(columns, true), cells(columns))).isPresent();
        List<ColumnDefinition> apart = List.of(columns.get(1), columns.get(3), columns.get(2));
        assertThat(RawRecords.of(table(apart, true), cells(apart))).isEmpty();
        List<ColumnDefinition> both = List.of(columns.get(1), ColumnDefinition.of("a", LogicalType.JSON));
        assertThat(RawRecords.of(table(both, true), cells(both))).isEmpty();
    }
}
