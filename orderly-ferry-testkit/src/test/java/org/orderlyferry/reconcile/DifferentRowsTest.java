package org.orderlyferry.reconcile;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collections;
import java.util.List;
import java.util.Random;
import java.util.TreeMap;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.IntRange;
import org.junit.jupiter.api.Test;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TypeName;
import org.orderlyferry.problem.UsageException;
import org.orderlyferry.testkit.doubles.ListedPlace;

/** Pairs of tables that differ in known ways: the differences that are found are exactly those. */
class DifferentRowsTest {

    private static final TableDefinition SHEET = TableDefinition.named("sheet")
            .column(ColumnDefinition.named("no", LogicalType.BIGINT)
                    .nullable(false)
                    .build())
            .column("taxon", LogicalType.varchar(40))
            .column("size", LogicalType.decimal(12, 4))
            .column("seen", LogicalType.of(TypeName.TIMESTAMP, 6))
            .primaryKey("no")
            .build();

    private static final TableDefinition LOOSE =
            SHEET.toBuilder().primaryKey((org.orderlyferry.model.Key) null).build();

    private static List<String> row(String... values) {
        return Arrays.asList(values);
    }

    private static List<String> row(int no) {
        return row("" + no, "taxon " + no % 17, no + ".5", "2031-04-09T11:30:00.000001");
    }

    /** Each difference in a line, in any order. */
    private static List<String> differences(Reconcile reconcile) {
        List<String> found = new ArrayList<>();
        ReconcileResult result = reconcile
                .depth(Depth.ROWS)
                .differences(d -> found.add(line(d)), Long.MAX_VALUE)
                .compare();
        RowCounts counts = result.tables().get(0).rows().orElseThrow();
        assertThat(found).hasSize((int) counts.all());
        assertThat(result.isEqual()).isEqualTo(found.isEmpty());
        assertThat(found.stream().filter(l -> l.startsWith("MISSING"))).hasSize((int) counts.missing());
        assertThat(found.stream().filter(l -> l.startsWith("EXTRA"))).hasSize((int) counts.extra());
        return found;
    }

    private static String line(RowDifference d) {
        int columns = d.table().columns().size();
        String source = d.source().map(v -> values(v, columns)).orElse("-");
        String target = d.target().map(v -> values(v, columns)).orElse("-");
        return d.kind() + " " + source + " / " + target + " " + d.differing();
    }

    private static String values(RecordValues values, int columns) {
        return IntStream.range(0, columns).mapToObj(values::text).collect(Collectors.joining(","));
    }

    private static String text(List<String> row) {
        return String.join(",", row.stream().map(String::valueOf).toList());
    }

    @Property(tries = 60)
    void theyAreExactlyThose(
            @ForAll @IntRange(max = 2000) int size, @ForAll @IntRange(max = 40) int changes, @ForAll long seed) {
        Random random = new Random(seed);
        TreeMap<Integer, List<String>> source = new TreeMap<>();
        for (int no = 0; no < size; no++) {
            source.put(no * 3, row(no * 3));
        }
        TreeMap<Integer, List<String>> target = new TreeMap<>(source);
        List<String> expected = new ArrayList<>();
        for (int i = 0; i < changes; i++) {
            int no = random.nextInt(3 * size + 3);
            if (!source.containsKey(no) && !target.containsKey(no)) {
                target.put(no, row(no));
                expected.add("EXTRA - / " + text(row(no)) + " []");
            } else if (source.get(no) != null && source.get(no).equals(target.get(no))) {
                if (random.nextBoolean()) {
                    target.remove(no);
                    expected.add("MISSING " + text(row(no)) + " / - []");
                } else {
                    List<String> changed = new ArrayList<>(row(no));
                    int column = 1 + random.nextInt(3);
                    changed.set(column, random.nextBoolean() ? null : column == 1 ? "" : changed.get(column) + "7");
                    target.put(no, changed);
                    expected.add("DIFFERENT " + text(row(no)) + " / " + text(changed) + " ["
                            + SHEET.columnNames().get(column) + "]");
                }
            }
        }
        List<List<String>> order = new ArrayList<>(target.values());
        Collections.shuffle(order, random);
        Reconcile reconcile = Reconcile.between(
                new ListedPlace().with(SHEET, List.copyOf(source.values())), new ListedPlace().with(SHEET, order));
        assertThat(differences(reconcile.lanes(1 + random.nextInt(3)))).containsExactlyInAnyOrderElementsOf(expected);
    }

    @Test
    void aTableWithoutAKeyIsComparedByWholeRecordsAndHowOftenTheyAreThere() {
        ListedPlace source = new ListedPlace().with(LOOSE, List.of(row(1), row(1), row(1), row(2), row(3)));
        ListedPlace target = new ListedPlace().with(LOOSE, List.of(row(3), row(1), row(4), row(2), row(2)));
        assertThat(differences(Reconcile.between(source, target)))
                .containsExactlyInAnyOrder(
                        "MISSING " + text(row(1)) + " / - []",
                        "MISSING " + text(row(1)) + " / - []",
                        "EXTRA - / " + text(row(2)) + " []",
                        "EXTRA - / " + text(row(4)) + " []");
    }

    @Test
    void aKeyThatIsToldMayHaveSeveralRecords() {
        ListedPlace source = new ListedPlace()
                .with(LOOSE, List.of(row("1", "a", "1", null), row("2", "a", "2", null), row("3", "b", "3", null)));
        ListedPlace target = new ListedPlace()
                .with(
                        LOOSE,
                        List.of(
                                row("1", "a", "1", null),
                                row("9", "b", "3", null),
                                row("8", "a", "8", null),
                                row("7", "a", "7", null)));
        assertThat(differences(Reconcile.between(source, target).key("sheet", List.of("taxon"))))
                .hasSize(3)
                .contains("DIFFERENT 3,b,3,null / 9,b,3,null [no]")
                .anyMatch(l -> l.startsWith("EXTRA - / ") && l.contains(",a,"))
                .anyMatch(l -> l.startsWith("DIFFERENT 2,a,2,null / "));
        assertThatThrownBy(() -> differences(Reconcile.between(source, target).key("sheet", List.of("nowhere"))))
                .isInstanceOf(UsageException.class)
                .hasMessageContainingAll("sheet", "nowhere");
    }

    @Test
    void onlySoManyAreToldAndAllAreCounted() {
        ListedPlace source = new ListedPlace()
                .with(
                        SHEET,
                        IntStream.range(0, 500).mapToObj(DifferentRowsTest::row).toList());
        ListedPlace target = new ListedPlace().with(SHEET, List.of());
        List<RowDifference> found = new ArrayList<>();
        ReconcileResult result = Reconcile.between(source, target)
                .depth(Depth.ROWS)
                .differences(found::add, 20)
                .compare();
        assertThat(found).hasSize(20);
        assertThat(result.tables().get(0).rows()).hasValue(new RowCounts(500, 0, 0));
    }

    private static ReconcileResult byRules(List<List<String>> source, List<List<String>> target, String... rules) {
        List<String> found = new ArrayList<>();
        ReconcileResult result = Reconcile.between(
                        new ListedPlace().with(SHEET, source), new ListedPlace().with(SHEET, target))
                .depth(Depth.ROWS)
                .rules(Arrays.stream(rules).map(ComparisonRule::parse).toList())
                .differences(d -> found.add(line(d)), 100)
                .compare();
        assertThat(found)
                .hasSize((int) result.tables().get(0).rows().orElseThrow().all());
        return result;
    }

    @Test
    void whatRulesMakeEqualIsCounted() {
        List<List<String>> source = List.of(
                row("1", "Moss", "1.2345", "2031-04-09T11:30:00.123"),
                row("2", null, "2", null),
                row("3", "c", "3", "2031-04-09T11:30:00"));
        List<List<String>> target = List.of(
                row("1", "moss  ", "1.23", "2031-04-09T11:30:00.1"),
                row("2", "", "2.001", null),
                row("3", "c", "3", "2031-04-09T11:30:00"));
        ReconcileResult equal =
                byRules(source, target, "places=2", "time-digits=1", "any-case", "trailing-blanks", "null-as-empty");
        assertThat(equal.isEqual()).isTrue();
        assertThat(equal.tables().get(0).rules())
                .containsExactlyInAnyOrder(
                        new AppliedRule("places=2", 2),
                        new AppliedRule("time-digits=1", 1),
                        new AppliedRule("any-case", 1),
                        new AppliedRule("trailing-blanks", 1),
                        new AppliedRule("null-as-empty", 1));
        // one rule too few: the record differs, and what other rules did in it isn't said to have disappeared
        ReconcileResult less = byRules(source, target, "places=2", "time-digits=1", "any-case", "null-as-empty");
        assertThat(less.isEqual()).isFalse();
        assertThat(less.tables().get(0).rows()).hasValue(new RowCounts(0, 0, 1));
        assertThat(less.tables().get(0).differing()).containsExactly("taxon");
        assertThat(less.tables().get(0).rules())
                .containsExactlyInAnyOrder(new AppliedRule("places=2", 1), new AppliedRule("null-as-empty", 1));
    }

    @Test
    void aColumnThatIsLeftOutIsNamed() {
        ReconcileResult result = byRules(
                List.of(row(1)), List.of(row("1", "other", "1.5", null)), "without=taxon", "without=sheet.seen");
        assertThat(result.isEqual()).isTrue();
        assertThat(result.tables().get(0).rules())
                .containsExactly(new AppliedRule("without=taxon", -1), new AppliedRule("without=seen", -1));
    }

    @Test
    void aColumnThatOnlyTheTargetHasCanBeLeftOutAndIsNamed() {
        TableDefinition more = SHEET.toBuilder()
                .column(ColumnDefinition.named("loaded_at", LogicalType.DATE).build())
                .build();
        ListedPlace source = new ListedPlace().with(SHEET, List.of(row(1)));
        ListedPlace target = new ListedPlace()
                .with(more, List.of(row("1", "taxon 1", "1.5", "2031-04-09T11:30:00.000001", "2031-04-10")));
        assertThat(Reconcile.between(source, target).depth(Depth.ROWS).compare().isEqual())
                .isFalse();
        ReconcileResult result = Reconcile.between(source, target)
                .depth(Depth.ROWS)
                .rules(List.of(ComparisonRule.parse("without=loaded_at")))
                .compare();
        assertThat(result.isEqual()).isTrue();
        assertThat(result.tables().get(0).rules()).containsExactly(new AppliedRule("without=loaded_at", -1));
    }

    @Test
    void rulesAreReadOrRefused() {
        for (String rule : List.of("places=2", "time-digits=3", "zone=Europe/Vienna", "any-case", "without=a b")) {
            assertThat(ComparisonRule.parse(rule).shown()).isEqualTo(rule);
        }
        for (String wrong :
                List.of("", "places", "places=", "places=x", "places=99", "zone=Nowhere", "any-case=1", "=")) {
            assertThatThrownBy(() -> ComparisonRule.parse(wrong)).isInstanceOf(UsageException.class);
        }
        assertThatThrownBy(() -> Reconcile.between(new ListedPlace(), new ListedPlace())
                        .rules(List.of(ComparisonRule.parse("any-case")))
                        .compare())
                .isInstanceOf(UsageException.class);
    }

    @Test
    void aTimeWithoutZoneIsOfAZone() {
        TableDefinition instants = SHEET.toBuilder()
                .columns(List.of(
                        SHEET.column("no").orElseThrow(),
                        ColumnDefinition.named("seen", LogicalType.of(TypeName.TIMESTAMP_WITH_TIME_ZONE, 3))
                                .build()))
                .build();
        TableDefinition locals = SHEET.toBuilder()
                .columns(List.of(
                        SHEET.column("no").orElseThrow(), SHEET.column("seen").orElseThrow()))
                .build();
        ReconcileResult result = Reconcile.between(
                        new ListedPlace()
                                .with(
                                        instants,
                                        List.of(row("1", "2031-01-09T10:30:00Z"), row("2", "2031-07-09T10:30:00.25Z"))),
                        new ListedPlace()
                                .with(
                                        locals,
                                        List.of(row("1", "2031-01-09T11:30:00"), row("2", "2031-07-09T12:30:00.25"))))
                .depth(Depth.ROWS)
                .rules(List.of(ComparisonRule.parse("zone=Europe/Vienna")))
                .compare();
        assertThat(result.isEqual()).isTrue();
        assertThat(result.tables().get(0).rules()).containsExactly(new AppliedRule("zone=Europe/Vienna", 2));
    }

    @Property(tries = 40)
    void controlTotalsAreThoseOfTheValues(@ForAll @IntRange(max = 300) int size, @ForAll long seed) {
        Random random = new Random(seed);
        List<List<String>> rows = new ArrayList<>();
        java.math.BigDecimal sum = java.math.BigDecimal.ZERO;
        java.math.BigDecimal largest = null;
        long nulls = 0;
        long length = 0;
        for (int no = 0; no < size; no++) {
            boolean none = random.nextInt(4) == 0;
            java.math.BigDecimal number =
                    new java.math.BigDecimal(random.nextInt(2_000_000) - 1_000_000).movePointLeft(4);
            String text = "\uD83C\uDF3F".repeat(random.nextInt(4)) + "a";
            rows.add(row("" + no, text, none ? null : number.toPlainString(), null));
            nulls += none ? 1 : 0;
            length += text.codePointCount(0, text.length());
            if (!none) {
                sum = sum.add(number);
                largest = largest == null ? number : largest.max(number);
            }
        }
        List<List<String>> other = new ArrayList<>(rows);
        Collections.shuffle(other, random);
        ReconcileResult result = Reconcile.between(
                        new ListedPlace().with(SHEET, rows), new ListedPlace().with(SHEET, other))
                .totals(true)
                .lanes(2)
                .compare();
        List<ComparedTotals> totals = result.tables().get(0).totals();
        assertThat(totals).hasSize(4).allMatch(ComparedTotals::equal);
        assertThat(totals.get(2).source()).isEqualTo(totals.get(2).target());
        assertThat(totals.get(2).source().nulls()).isEqualTo(nulls);
        assertThat(totals.get(2).source().sum().orElseThrow()).isEqualByComparingTo(sum);
        assertThat(totals.get(2)
                        .source()
                        .largest()
                        .map(java.math.BigDecimal::new)
                        .orElse(null))
                .usingComparator(java.util.Comparator.nullsFirst(java.util.Comparator.naturalOrder()))
                .isEqualTo(largest);
        assertThat(totals.get(1).source().length()).hasValue(length);
        if (size > 0) {
            other.set(0, row(other.get(0).get(0), "changed", "0.1234", "2031-01-01T00:00:00"));
            assertThat(Reconcile.between(new ListedPlace().with(SHEET, rows), new ListedPlace().with(SHEET, other))
                            .totals(true)
                            .compare()
                            .tables()
                            .get(0)
                            .totals())
                    .anyMatch(t -> !t.equal());
        }
    }
}
