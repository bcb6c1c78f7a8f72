package org.orderlyferry.matrix;

import static org.assertj.core.api.Assertions.assertThat;

import java.math.BigDecimal;
import java.math.BigInteger;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.LocalDateTime;
import java.util.Base64;
import java.util.List;
import java.util.Random;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Places;
import org.orderlyferry.place.TargetPlace;
import org.orderlyferry.reconcile.Reconcile;
import org.orderlyferry.record.text.JavaValues;
import org.orderlyferry.testkit.herbarium.HostileTexts;
import org.orderlyferry.testkit.servers.TestSystem;
import org.orderlyferry.work.Load;

/** Thousands of generated values of each type, out of a file into each system, and compared by digests. */
class GeneratedValuesTest {

    private static final int ROWS = 3_000;

    private static final String DESCRIPTION =
            """
            {"@context": "http://www.w3.org/ns/csvw", "url": "values.csv", "tableSchema": {"primaryKey": "id", "columns": [
              {"name": "id", "datatype": "int", "required": true},
              {"name": "text", "datatype": {"base": "string", "maxLength": 400}},
              {"name": "whole", "datatype": "long"},
              {"name": "exact", "datatype": "decimal", "https://orderly-ferry.example/ns#type": "DECIMAL(38,12)"},
              {"name": "single", "datatype": "float"},
              {"name": "twice", "datatype": "double"},
              {"name": "moment", "datatype": "dateTime", "https://orderly-ferry.example/ns#type": "TIMESTAMP(6)"},
              {"name": "flag", "datatype": "boolean"},
              {"name": "bytes", "datatype": "base64Binary"},
              {"name": "json", "datatype": "json"}]}}
            """;

    @TempDir
    private Path folder;

    private final Random random = new Random(417);

    @Test
    void everyGeneratedValueArrivesInEverySystem() throws Exception {
        Path file = folder.resolve("values.csv");
        StringBuilder text = new StringBuilder("id,text,whole,exact,single,twice,moment,flag,bytes,json\n");
        for (int id = 1; id <= ROWS; id++) {
            text.append(id);
            for (String value :
                    List.of(text(), whole(), exact(), single(), twice(), moment(), flag(), bytes(), json())) {
                text.append(',');
                if (random.nextInt(12) != 0) {
                    text.append('"').append(value.replace("\"", "\"\"")).append('"');
                }
            }
            text.append('\n');
        }
        Files.writeString(file, text);
        Files.writeString(folder.resolve("values.csv-metadata.json"), DESCRIPTION);
        List<String> targets =
                Stream.of(TestSystem.values()).map(s -> s.fresh(folder)).toList();
        for (String target : targets) {
            try (Place source = Places.open(file.toString());
                    TargetPlace place = Places.openTarget(target)) {
                assertThat(Load.from(source).into(place).rows()).isEqualTo(ROWS);
            }
            try (Place source = Places.open(file.toString());
                    Place place = Places.open(target)) {
                assertThat(Reconcile.between(source, place)
                                .compare()
                                .tables()
                                .get(0)
                                .differing())
                        .as(target)
                        .isEmpty();
            }
        }
    }

    private String text() {
        StringBuilder text = new StringBuilder();
        for (int pieces = random.nextInt(4); pieces > 0; pieces--) {
            switch (random.nextInt(3)) {
                case 0 -> text.append(HostileTexts.ALL.get(random.nextInt(HostileTexts.ALL.size())));
                case 1 -> text.appendCodePoint(codePoint());
                default -> text.append(random.nextInt(1_000));
            }
        }
        return text.toString();
    }

    /** Any character but NUL, which PostgreSQL's text can't hold, and halves of surrogate pairs, which nothing can. */
    private int codePoint() {
        int point;
        do {
            point = 1 + random.nextInt(Character.MAX_CODE_POINT);
        } while (Character.getType(point) == Character.SURROGATE);
        return point;
    }

    private String whole() {
        return Long.toString(random.nextLong() >> random.nextInt(64));
    }

    private String exact() {
        return new BigDecimal(new BigInteger(random.nextInt(125), random), 12).toPlainString();
    }

    private String single() {
        float value;
        do {
            value = Float.intBitsToFloat(random.nextInt());
        } while (!Float.isFinite(value));
        return JavaValues.text(value);
    }

    private String twice() {
        double value;
        do {
            value = Double.longBitsToDouble(random.nextLong());
        } while (!Double.isFinite(value));
        return JavaValues.text(value);
    }

    private String moment() {
        return JavaValues.text(LocalDateTime.of(1000, 1, 1, 0, 0)
                .plusSeconds((long) (random.nextDouble() * 280_000_000_000L))
                .withNano(random.nextInt(1_000_000) * 1_000));
    }

    private String flag() {
        return Boolean.toString(random.nextBoolean());
    }

    private String bytes() {
        byte[] bytes = new byte[random.nextInt(60)];
        random.nextBytes(bytes);
        return Base64.getEncoder().encodeToString(bytes);
    }

    private String json() {
        String key = new String(new char[] {(char) ('a' + random.nextInt(26))});
        return "{\"" + key + "\": [" + random.nextInt() + ", \""
                + new String("ü山\\\"".getBytes(StandardCharsets.UTF_8), StandardCharsets.UTF_8) + "\", null, "
                + random.nextInt(1000) / 8.0 + "]}";
    }
}
