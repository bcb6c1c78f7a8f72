package org.orderlyferry.tally;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collections;
import java.util.List;
import java.util.Random;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.Size;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.orderlyferry.Rows;
import org.orderlyferry.model.LogicalType;

class TallyTest {

    private static Tally tally(List<List<String>> rows) {
        TallyTaker taker = new TallyTaker(List.of("a", "b"), List.of(ComparisonForm.EXACT, ComparisonForm.EXACT));
        taker.add(Rows.batch(rows, 2));
        return taker.tally();
    }

    @Property(tries = 200)
    void orderDoesNotCountAndPartsAddUp(
            @ForAll @Size(min = 1, max = 30) List<@Size(2) List<String>> rows, @ForAll Random random) {
        List<List<String>> encodable = new ArrayList<>();
        rows.forEach(row -> encodable.add(
                row.stream().map(v -> Integer.toHexString(v.hashCode())).toList()));
        Tally whole = tally(encodable);
        List<List<String>> shuffled = new ArrayList<>(encodable);
        Collections.shuffle(shuffled, random);
        assertThat(tally(shuffled)).isEqualTo(whole);
        int cut = random.nextInt(rows.size() + 1);
        assertThat(tally(shuffled.subList(0, cut)).plus(tally(shuffled.subList(cut, rows.size()))))
                .isEqualTo(whole);
    }

    @Test
    void whatACountAloneDoesNotSeeIsSeen() {
        Tally tally = tally(List.of(List.of("1", "moss"), List.of("2", "fern")));
        assertThat(tally(List.of(List.of("1", "fern"), List.of("2", "moss"))).digest())
                .as("values in each other's record")
                .isNotEqualTo(tally.digest());
        assertThat(tally(List.of(List.of("1", "moss"), List.of("1", "moss"))).digest())
                .as("one record twice")
                .isNotEqualTo(tally.digest());
        assertThat(tally(List.of(Arrays.asList("1", null), List.of("2", "fern")))
                        .digest())
                .as("null for a value")
                .isNotEqualTo(tally.digest());
        assertThat(tally(List.of(Arrays.asList("x", null))).digest())
                .as("null for empty text")
                .isNotEqualTo(tally(List.of(List.of("x", ""))).digest());
        assertThat(tally(List.of(List.of("ab", "c"))).digest())
                .as("a letter over the border")
                .isNotEqualTo(tally(List.of(List.of("a", "bc"))).digest());
    }

    @Test
    void aDifferenceNamesItsColumn() {
        Tally one = tally(List.of(List.of("1", "moss")));
        Tally other = tally(List.of(List.of("1", "Moss")));
        assertThat(other.columns().get(0)).isEqualTo(one.columns().get(0));
        assertThat(other.columns().get(1).digest())
                .isNotEqualTo(one.columns().get(1).digest());
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            quoteCharacter = '`',
            textBlock =
                    """
            DECIMAL(12,2)    | DECIMAL(12,4)       | 12.50   | 12.5000  | true
            DECIMAL(12,2)    | BIGINT              | 12.00   | 12       | true
            DECIMAL(12,2)    | BIGINT              | 120.00  | 12       | false
            BOOLEAN          | SMALLINT            | true    | 1        | true
            BOOLEAN          | DECIMAL(1,0)        | false   | 0        | true
            BOOLEAN          | SMALLINT            | true    | 0        | false
            TIMESTAMP(6) WITH TIME ZONE | TIMESTAMP(6) | 2031-04-09T07:30:00.5Z | 2031-04-09T07:30:00.5 | true
            DOUBLE PRECISION | DOUBLE PRECISION    | -0.0    | 0.0      | true
            DOUBLE PRECISION | DOUBLE PRECISION    | -0.5    | 0.5      | false
            DOUBLE PRECISION | DECIMAL(20,10)      | 1.0E-4  | 0.0001000000 | true
            CHARACTER(5)     | CHARACTER VARYING(5)| `ab   ` | ab       | true
            CHARACTER(5)     | CHARACTER VARYING(5)| `  ab`  | ab       | false
            CHARACTER VARYING(5) | CHARACTER VARYING(9) | `ab ` | ab     | false
            JSON             | JSON                | {"a":1,"b":[2.50]} | { "b" : [2.5], "a":1.0 } | true
            JSON             | CHARACTER LARGE OBJECT | {"a":1} | { "a" : 1 } | true
            JSON             | JSON                | [1,2]   | [2,1]    | false
            JSON             | JSON                | 12345678901234567890 | 12345678901234567891 | false
            """)
    void valuesThatSystemsHoldDifferentlyAreCompared(
            String oneType, String otherType, String one, String other, boolean equal) {
        ComparisonForm form = ComparisonForm.between(LogicalType.parse(oneType), LogicalType.parse(otherType));
        assertThat(form).isEqualTo(ComparisonForm.between(LogicalType.parse(otherType), LogicalType.parse(oneType)));
        assertThat(digest(form, one).equals(digest(form, other))).isEqualTo(equal);
    }

    private static Digest digest(ComparisonForm form, String value) {
        TallyTaker taker = new TallyTaker(List.of("a"), List.of(form));
        taker.add(Rows.batch(List.of(List.of(value)), 1));
        return taker.tally().digest();
    }

    @Test
    void jsonIsBroughtIntoTheFormOfTheRfc() throws java.io.IOException {
        // the example of RFC 8785, section 3.2.2
        String input = "{\"numbers\": [333333333.33333329, 1E30, 4.50, 2e-3, 0.000000000000000000000000001],"
                + " \"string\": \"\\u20ac$\\u000F\\u000aA'\\u0042\\u0022\\u005c\\\\\\\"\\/\","
                + " \"literals\": [null, true, false]}";
        byte[] bytes = input.getBytes(java.nio.charset.StandardCharsets.UTF_8);
        assertThat(new String(CanonicalJson.of(bytes, 0, bytes.length), java.nio.charset.StandardCharsets.UTF_8))
                .isEqualTo("{\"literals\":[null,true,false],\"numbers\":[333333333.33333329,1e+30,4.5,0.002,1e-27],"
                        + "\"string\":\"€$\\u000f\\nA'B\\\"\\\\\\\\\\\"/\"}");
    }
}
