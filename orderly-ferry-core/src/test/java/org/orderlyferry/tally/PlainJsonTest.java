package org.orderlyferry.tally;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.List;
import net.jqwik.api.Arbitraries;
import net.jqwik.api.Arbitrary;
import net.jqwik.api.Combinators;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.Provide;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** The quick way to the canonical form of JSON never comes to another one than the thorough way. */
class PlainJsonTest {

    private static String quick(String json) {
        byte[] bytes = ("xx" + json + "yy").getBytes(StandardCharsets.UTF_8);
        byte[] plain = PlainJson.of(bytes, 2, bytes.length - 2);
        return plain == null ? null : new String(plain, StandardCharsets.UTF_8);
    }

    private static String thorough(String json) {
        byte[] bytes = json.getBytes(StandardCharsets.UTF_8);
        try {
            return new String(CanonicalJson.anyOf(bytes, 0, bytes.length), StandardCharsets.UTF_8);
        } catch (IOException e) {
            return null;
        }
    }

    /** Texts of all that JSON has, right and wrong, put together by chance. */
    @Provide
    Arbitrary<String> json() {
        return json(3);
    }

    private static Arbitrary<String> json(int depth) {
        Arbitrary<String> leaf = Arbitraries.oneOf(
                Arbitraries.of(List.of(
                        "true",
                        "false",
                        "null",
                        "\"\"",
                        "\"a\\n\\\"b\"",
                        "\"é\"",
                        "\"\\u00e9\"",
                        "\"\\/\"",
                        "\"\u2028\"",
                        "\"\ttab\"",
                        "0",
                        "-0",
                        "-0.0",
                        "0.000001",
                        "0.0000001",
                        "00",
                        "01",
                        "1.",
                        ".5",
                        "1e5",
                        "-",
                        "123456789012345",
                        "1234567890123456",
                        "0.10",
                        "100.00",
                        "-5.50",
                        "99999.9999999999",
                        "tru",
                        "nul",
                        "[]",
                        "{}",
                        "1 2",
                        "\"",
                        "\\")),
                Arbitraries.bigDecimals()
                        .between(new java.math.BigDecimal("-99999999"), new java.math.BigDecimal("99999999"))
                        .ofScale(9)
                        .map(java.math.BigDecimal::toPlainString),
                Arbitraries.strings().withChars("ab\"\\n,:{}[] 0").ofMaxLength(6));
        Arbitrary<String> name =
                Arbitraries.of(List.of("a", "b", "ab", "a b", "B", "é", "", "a\\\"", "\\u0061", "a!", "c", "d", "0"));
        if (depth == 0) {
            return leaf;
        }
        return Arbitraries.oneOf(
                leaf,
                json(depth - 1).list().ofMaxSize(4).map(l -> "[ " + String.join(" ,\n", l) + "]"),
                Combinators.combine(
                                name.list().ofSize(4), json(depth - 1).list().ofMaxSize(4))
                        .as(PlainJsonTest::object));
    }

    private static String object(List<String> names, List<String> values) {
        StringBuilder text = new StringBuilder("{");
        for (int i = 0; i < values.size(); i++) {
            text.append(i == 0 ? "" : ", ")
                    .append('"')
                    .append(names.get(i))
                    .append("\" :")
                    .append(values.get(i));
        }
        return text.append('}').toString();
    }

    @Property(tries = 4000)
    void itIsTheSame(@ForAll("json") String json) {
        String quick = quick(json);
        if (quick != null) {
            assertThat(quick).isEqualTo(thorough(json));
        }
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "{\"b\": 1, \"a\": [true, null, \"x\\ty\"], \"aa\": {\"z\": -12.50, \"y\": 0.5}, \"A\": \"größer\"}",
                " [1, 2.0, -0.0, 123456789012345, {}] ",
                "\"text\"",
                "{\"sheets\":2,\"colour\":\"red\",\"dried\":false}"
            })
    void whatIsOrdinaryGoesTheQuickWay(String json) {
        assertThat(quick(json)).isNotNull().isEqualTo(thorough(json));
    }

    @Test
    void whatIsNestedTooDeeplyIsLeftToOthers() {
        assertThat(quick("[".repeat(200) + "]".repeat(200))).isNull();
    }
}
