package org.orderlyferry.model;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import java.util.stream.IntStream;
import net.jqwik.api.Arbitraries;
import net.jqwik.api.Arbitrary;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.Provide;
import org.junit.jupiter.api.Test;

class FreeNamesTest {

    @Provide
    Arbitrary<List<String>> wanted() {
        return Arbitraries.of("a", "A", "a 2", "A 3", "a 3", "b", "b 2", "")
                .list()
                .ofMaxSize(40);
    }

    /** As one would do it by hand: the first number whose name nobody has. */
    @Property
    void eachGetsTheFirstThatIsFree(@ForAll("wanted") List<String> wanted) {
        FreeNames free = new FreeNames(n -> n.toLowerCase(Locale.ROOT));
        free.take("b 2");
        Set<String> taken = new HashSet<>(Set.of("b 2"));
        for (String name : wanted) {
            String byHand = name;
            for (int number = 2; !taken.add(byHand.toLowerCase(Locale.ROOT)); number++) {
                byHand = name + " " + number;
            }
            assertThat(free.give(name, number -> name + " " + number)).isEqualTo(byHand);
            assertThat(free.isTaken(byHand.toUpperCase(Locale.ROOT))).isTrue();
        }
    }

    @Test
    void aMillionOfOneNameTakeAMomentAndNotADay() {
        FreeNames free = new FreeNames();
        assertThat(IntStream.range(0, 1_000_000)
                        .mapToObj(i -> free.give("column", number -> "column " + number))
                        .reduce((one, other) -> other))
                .contains("column 1000000");
    }

    /** What names a table may come from a file. */
    @Test
    void aNameOfAnyLengthIsReadAsItWasWritten() {
        TableName name = new TableName("a.b", "bed \"x\" ".repeat(50_000));
        assertThat(TableName.parse(name.text())).isEqualTo(name);
    }
}
