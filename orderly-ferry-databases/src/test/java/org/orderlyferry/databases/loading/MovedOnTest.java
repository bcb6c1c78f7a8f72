package org.orderlyferry.databases.loading;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Random;
import java.util.stream.IntStream;
import net.jqwik.api.Arbitraries;
import net.jqwik.api.ForAll;
import net.jqwik.api.From;
import net.jqwik.api.Property;
import net.jqwik.api.Provide;
import net.jqwik.api.arbitraries.LongArbitrary;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.ForeignKey;
import org.orderlyferry.model.Key;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.ReferentialAction;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.LoadMode;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Places;
import org.orderlyferry.place.Removal;
import org.orderlyferry.place.Slice;
import org.orderlyferry.place.TargetPlace;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordReader;
import org.orderlyferry.testkit.doubles.ListedPlace;
import org.orderlyferry.testkit.folder.OneTry;
import org.orderlyferry.testkit.servers.TestSystem;
import org.orderlyferry.work.Load;
import org.orderlyferry.work.TransferResult;

/**
 * A target that is brought from any state of its source to any other by what has changed alone: unique values that wander
 * from record to record, trees that are hung elsewhere, and branches that are cut off.
 */
class MovedOnTest {

    private static final TableDefinition BED = TableDefinition.named("bed")
            .column(ColumnDefinition.named("id", LogicalType.INTEGER)
                    .nullable(false)
                    .build())
            .column(ColumnDefinition.named("code", LogicalType.varchar(9))
                    .nullable(false)
                    .build())
            .column("within", LogicalType.INTEGER)
            .primaryKey("id")
            .uniqueKeys(List.of(new Key("", List.of("code"))))
            .foreignKey(reference("bed_within", "within"))
            .build();

    private static final TableDefinition PLANT = TableDefinition.named("plant")
            .column(ColumnDefinition.named("id", LogicalType.INTEGER)
                    .nullable(false)
                    .build())
            .column("bed", LogicalType.INTEGER)
            .column("spot", LogicalType.INTEGER)
            .primaryKey("id")
            .uniqueKeys(List.of(new Key("", List.of("bed", "spot"))))
            .foreignKey(reference("plant_bed", "bed"))
            .build();

    private static ForeignKey reference(String name, String column) {
        return new ForeignKey(
                name,
                List.of(column),
                TableName.of("bed"),
                List.of("id"),
                ReferentialAction.NO_ACTION,
                ReferentialAction.NO_ACTION);
    }

    /** Records by their keys. */
    private record State(Map<String, List<String>> beds, Map<String, List<String>> plants) {

        static State any(Random random) {
            List<Integer> ids = some(random, 9);
            List<Integer> codes = new ArrayList<>(IntStream.range(0, 11).boxed().toList());
            Collections.shuffle(codes, random);
            Map<String, List<String>> beds = new LinkedHashMap<>();
            for (int i = 0; i < ids.size(); i++) {
                String within = random.nextInt(3) == 0 ? null : one(random, ids);
                beds.put(ids.get(i).toString(), Arrays.asList(ids.get(i).toString(), "c" + codes.get(i), within));
            }
            Map<String, List<String>> plants = new LinkedHashMap<>();
            List<String> spots = new ArrayList<>();
            for (int id : some(random, 9)) {
                String bed = ids.isEmpty() || random.nextInt(5) == 0 ? null : one(random, ids);
                String spot = Integer.toString(random.nextInt(4));
                if (bed == null || !spots.contains(bed + " " + spot)) {
                    spots.add(bed + " " + spot);
                    plants.put(Integer.toString(id), Arrays.asList(Integer.toString(id), bed, spot));
                }
            }
            return new State(beds, plants);
        }

        private static List<Integer> some(Random random, int of) {
            return IntStream.range(0, of)
                    .filter(i -> random.nextBoolean())
                    .boxed()
                    .toList();
        }

        private static String one(Random random, List<Integer> ids) {
            return ids.get(random.nextInt(ids.size())).toString();
        }
    }

    private static List<List<String>> changed(Map<String, List<String>> from, Map<String, List<String>> to) {
        return to.values().stream()
                .filter(r -> !Objects.equals(r, from.get(r.get(0))))
                .toList();
    }

    private static Removal gone(TableDefinition table, Map<String, List<String>> from, Map<String, List<String>> to) {
        TableDefinition key = table.withColumns(List.of("id"));
        List<List<String>> keys = from.keySet().stream()
                .filter(k -> !to.containsKey(k))
                .map(List::of)
                .toList();
        ListedPlace listed = new ListedPlace().with(key, keys);
        return new Removal(key, () -> listed.read(Slice.whole(key)));
    }

    private static List<List<String>> read(String url, TableDefinition table) {
        List<List<String>> records = new ArrayList<>();
        RecordBatch batch = new RecordBatch();
        try (Place place = Places.open(url);
                RecordReader reader = place.read(Slice.whole(place.define(table.name())))) {
            while (reader.read(batch)) {
                for (int row = 0; row < batch.rows(); row++) {
                    int at = row;
                    records.add(IntStream.range(0, 3)
                            .mapToObj(c -> batch.isNull(at, c) ? null : batch.text(at, c))
                            .toList());
                }
            }
        }
        return records;
    }

    private static void moves(String url, State from, State to) {
        try (TargetPlace target = Places.openTarget(url)) {
            Load.from(new ListedPlace()
                            .with(BED, List.copyOf(from.beds().values()))
                            .with(PLANT, List.copyOf(from.plants().values())))
                    .mode(LoadMode.REPLACE)
                    .into(target);
        }
        TransferResult result;
        try (TargetPlace target = Places.openTarget(url)) {
            result = Load.from(new ListedPlace()
                            .with(BED, changed(from.beds(), to.beds()))
                            .with(PLANT, changed(from.plants(), to.plants())))
                    .mode(LoadMode.MERGE)
                    .removing(List.of(gone(BED, from.beds(), to.beds()), gone(PLANT, from.plants(), to.plants())))
                    .into(target);
        }
        assertThat(read(url, BED)).containsExactlyInAnyOrderElementsOf(to.beds().values());
        assertThat(read(url, PLANT))
                .containsExactlyInAnyOrderElementsOf(to.plants().values());
        result.tables().forEach(moved -> {
            boolean bed = moved.table().equals(BED.name());
            Map<String, List<String>> before = bed ? from.beds() : from.plants();
            Map<String, List<String>> after = bed ? to.beds() : to.plants();
            long inserted =
                    after.keySet().stream().filter(k -> !before.containsKey(k)).count();
            assertThat(moved.merged().orElseThrow().inserted()).isEqualTo(inserted);
            assertThat(moved.merged().orElseThrow().updated())
                    .isEqualTo(changed(before, after).size() - inserted);
            assertThat(result.deleted().get(moved.table()))
                    .isEqualTo(before.keySet().stream()
                            .filter(k -> !after.containsKey(k))
                            .count());
        });
    }

    @Provide
    LongArbitrary seeds() {
        return Arbitraries.longs();
    }

    @Property(tries = 120)
    void inFilesOfOurs(@ForAll @From("seeds") long seed) throws Exception {
        Random random = new Random(seed);
        try (OneTry one = OneTry.begin()) {
            String url = (random.nextBoolean() ? TestSystem.H2 : TestSystem.SQLITE).fresh(one.path());
            moves(url, State.any(random), State.any(random));
        }
    }

    @Property(tries = 30)
    void inServers(@ForAll @From("seeds") long seed) throws Exception {
        Random random = new Random(seed);
        try (OneTry one = OneTry.begin()) {
            String url = (random.nextBoolean() ? TestSystem.POSTGRESQL : TestSystem.MARIADB).fresh(one.path());
            moves(url, State.any(random), State.any(random));
        }
    }
}
