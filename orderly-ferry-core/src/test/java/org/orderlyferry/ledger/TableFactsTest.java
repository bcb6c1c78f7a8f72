package org.orderlyferry.ledger;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import net.jqwik.api.Arbitraries;
import net.jqwik.api.Arbitrary;
import net.jqwik.api.Combinators;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.Provide;
import org.orderlyferry.model.TableName;

/** Names of tables in a ledger, whatever they are made of. */
class TableFactsTest {

    @Provide
    Arbitrary<TableName> tables() {
        Arbitrary<String> odd =
                Arbitraries.strings().withChars("ab.\"\\\n\rn ").ofMinLength(1).ofMaxLength(6);
        Arbitrary<String> schema = Arbitraries.oneOf(Arbitraries.just(""), odd);
        return Combinators.combine(schema, odd).as(TableName::new);
    }

    @Property(tries = 500)
    void namesAreReadAsTheyWereWritten(@ForAll("lists") List<TableName> tables) {
        String names = TableFacts.names(tables);
        assertThat(TableFacts.named(names)).isEqualTo(tables);
        assertThat(names.lines().count()).isEqualTo(tables.size());
    }

    @Provide
    Arbitrary<List<TableName>> lists() {
        return tables().list().ofMaxSize(5);
    }

    @Property(tries = 500)
    void noTwoTablesHaveTheSameFact(@ForAll("tables") TableName one, @ForAll("tables") TableName other) {
        assertThat(TableFacts.of("left ", one).equals(TableFacts.of("left ", other)))
                .isEqualTo(one.equals(other));
    }
}
