package org.orderlyferry.profile;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.orderlyferry.format.Outline;
import org.orderlyferry.format.Proposing;
import org.orderlyferry.model.Finding;
import org.orderlyferry.model.Key;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordReader;

/** What is proposed for a file that says nothing of its columns but their names. */
@Tag("everywhere")
class ProposalTest {

    private static RecordReader reader(List<String> names, List<List<String>> rows) {
        TableDefinition.Builder table = TableDefinition.named("label");
        names.forEach(n -> table.column(n, LogicalType.CLOB));
        TableDefinition built = table.build();
        return new RecordReader() {
            private int next;

            @Override
            public TableDefinition table() {
                return built;
            }

            @Override
            public boolean read(RecordBatch batch) {
                batch.start(names.size(), "label", "label.csv", true);
                for (; next < rows.size() && batch.rows() < 100; next++) {
                    for (String value : rows.get(next)) {
                        if (value == null) {
                            batch.addNull();
                        } else {
                            batch.add(value);
                        }
                    }
                    batch.endRow(next + 2);
                }
                return batch.rows() > 0;
            }

            @Override
            public void close() {
                // nothing is held
            }
        };
    }

    private static Proposal propose(List<String> names, List<List<String>> rows, Proposing decided) {
        TableProfile profile =
                TableProfile.of(() -> reader(names, rows), () -> reader(names, rows), List.of(), List.of());
        return Proposal.of(profile, Outline.Source.NAMES, List.of(), decided);
    }

    private static Proposal column(boolean tight, String... values) {
        return propose(
                List.of("a"),
                Arrays.stream(values).map(Arrays::asList).toList(),
                new Proposing(Optional.of(List.of()), tight));
    }

    private static String texts(Proposal proposal) {
        return proposal.findings().stream().map(Finding::text).toList().toString();
    }

    /** With no room left: what the values need, and nothing more. */
    @ParameterizedTest
    @CsvSource(
            delimiter = '~',
            value = {
                "1|22|333~INTEGER",
                "1|40000~INTEGER",
                "1|3000000000~BIGINT",
                "1|99999999999999999999~DECIMAL(20,0)",
                "1.5|22.75~DECIMAL(4,2)",
                "-0.001|100~DECIMAL(6,3)",
                "true|false~BOOLEAN",
                "2031-04-09|1999-12-31~DATE",
                "2031-04-09T10:00:00|1999-12-31T23:59:59.125~TIMESTAMP(3)",
                "2031-04-09T10:00:00Z|1999-12-31T23:59:59Z~TIMESTAMP(0) WITH TIME ZONE",
                "10:00:00|23:59:59~TIME(0)",
                "moss|fern~CHARACTER VARYING(4)",
                "00417|00418~CHARACTER VARYING(5)",
                "+49 555|+49 556~CHARACTER VARYING(7)",
                "1e5|2~DOUBLE PRECISION",
                "12d|1f~CHARACTER VARYING(3)",
                "0x1p3|1~CHARACTER VARYING(5)",
                "\u0661\u0662|\u0663~CHARACTER VARYING(2)",
                "1|x~CHARACTER VARYING(1)",
                "2031-04-09|x~CHARACTER VARYING(10)",
                "2031-02-30|2031-01-01~CHARACTER VARYING(10)",
                "c56a4180-65aa-42ec-a945-5fd21dec0538|c56a4180-65aa-42ec-a945-5fd21dec0539~UUID",
                "{c56a4180-65aa-42ec-a945-5fd21dec0538|x~CHARACTER VARYING(37)",
                "31.12.2031|01.01.1999~DATE",
                "NaN|INF~DOUBLE PRECISION"
            })
    void aTypeIsWhatAllValuesAre(String values, String type) {
        assertThat(column(true, values.split("\\|")).table().columns().get(0).type())
                .hasToString(type);
    }

    /** Next week's file may have longer values: room is left, by a rule that look shows. */
    @Test
    void roomIsLeftUnlessItIsWantedTight() {
        assertThat(column(false, "moss", "fern").table().columns().get(0).type().size())
                .isGreaterThan(4);
        LogicalType number =
                column(false, "1.50", "22.75").table().columns().get(0).type();
        assertThat(number.scale()).isGreaterThanOrEqualTo(2);
        assertThat(number.size() - number.scale()).isGreaterThan(2);
    }

    @Test
    void aColumnWithoutValuesStaysWhatItIsAndThatIsTold() {
        Proposal proposal = column(false, null, null);
        assertThat(proposal.table().columns().get(0).type()).isEqualTo(LogicalType.CLOB);
        assertThat(texts(proposal)).contains("has no values, so its type isn't known");
    }

    @Test
    void datesThatCanBeReadTwoWaysStayTextAndAreTold() {
        Proposal both = column(false, "01/02/2031", "03/04/2031");
        assertThat(both.table().columns().get(0).type().name().isText()).isTrue();
        assertThat(texts(both)).contains("can be read two ways");
        Proposal dayFirst = column(false, "01/02/2031", "31/04/2031");
        assertThat(texts(dayFirst)).contains("holds dates written as dd/MM/yyyy");
        Proposal mixed = column(false, "13/02/2031", "02/13/2031");
        assertThat(texts(mixed)).contains("some have the day first and some the month");
    }

    @Test
    void aWordAmongNumbersIsToldWithWhatToDo() {
        List<String> values = new ArrayList<>();
        for (int i = 0; i < 50; i++) {
            values.add(Integer.toString(i));
        }
        values.add("n/a");
        Proposal proposal = column(false, values.toArray(String[]::new));
        assertThat(proposal.table().columns().get(0).type().name().isText()).isTrue();
        assertThat(texts(proposal)).contains("n/a");
    }

    private static List<List<String>> rows(int count) {
        List<List<String>> rows = new ArrayList<>();
        for (int i = 1; i <= count; i++) {
            rows.add(List.of(i + ".25", "name " + i, Integer.toString(i)));
        }
        return rows;
    }

    @Test
    void aKeyIsProposedOnlyWhereItLooksLikeOne() {
        // a measure and a name are unique by chance
        assertThat(propose(List.of("weight", "name", "id"), rows(20), Proposing.DEFAULT)
                        .table()
                        .primaryKey()
                        .map(Key::columns))
                .contains(List.of("id"));
        assertThat(propose(List.of("weight", "name", "height"), rows(20), Proposing.DEFAULT)
                        .table()
                        .primaryKey()
                        .map(Key::columns))
                .isNotEqualTo(Optional.of(List.of("weight")))
                .isNotEqualTo(Optional.of(List.of("name")));
    }

    @Test
    void aPersonsWordDecidesTheKey() {
        assertThat(propose(
                                List.of("weight", "name", "id"),
                                rows(20),
                                new Proposing(Optional.of(List.of("name")), false))
                        .table()
                        .primaryKey()
                        .map(Key::columns))
                .contains(List.of("name"));
        assertThat(propose(List.of("weight", "name", "id"), rows(20), new Proposing(Optional.of(List.of()), false))
                        .table()
                        .primaryKey())
                .isEmpty();
    }

    @Test
    void whatIsKnownOfValuesIsCountedOverAllOfThem() {
        List<List<String>> rows = new ArrayList<>();
        for (int i = 0; i < 1_000; i++) {
            rows.add(Arrays.asList(i % 10 == 0 ? null : Integer.toString(i % 50), "x".repeat(i % 7)));
        }
        TableProfile profile = TableProfile.of(
                () -> reader(List.of("a", "b"), rows), () -> reader(List.of("a", "b"), rows), List.of(), List.of());
        assertThat(profile.rows()).isEqualTo(1_000);
        ColumnProfile a = profile.column("a").orElseThrow();
        assertThat(a.nulls()).isEqualTo(100);
        assertThat(a.values()).isEqualTo(900);
        assertThat(a.distinct()).isEqualTo(45);
        assertThat(a.isUnique()).isFalse();
        assertThat(profile.column("c")).isEmpty();
        assertThat(profile.candidateKeys()).isEmpty();
    }

    @Test
    void twoColumnsTogetherMayBeAKey() {
        List<List<String>> rows = new ArrayList<>();
        for (int i = 0; i < 100; i++) {
            rows.add(List.of(Integer.toString(i / 10), Integer.toString(i % 10), "same"));
        }
        TableProfile profile = TableProfile.of(
                () -> reader(List.of("shelf", "place", "note"), rows),
                () -> reader(List.of("shelf", "place", "note"), rows),
                List.of(),
                List.of());
        assertThat(profile.candidateKeys()).containsExactly(List.of("shelf", "place"));
    }
}
