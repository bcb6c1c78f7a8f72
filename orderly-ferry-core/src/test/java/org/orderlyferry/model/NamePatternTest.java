package org.orderlyferry.model;

import static org.assertj.core.api.Assertions.assertThat;

import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class NamePatternTest {

    @ParameterizedTest
    @CsvSource({
        "loan, loan, true",
        "loan, Loan, false",
        "loan*, loan_item, true",
        "*item, loan_item, true",
        "l*n*m, loan_item, true",
        "*, '', true",
        "lo.n, loan, false",
        "[a-z]*, loan, false",
        "lo?n, loan, false",
        "\\Q*, \\Qloan, true",
        "loan*, 'loan\n2031', true",
    })
    void aStarStandsForAnyCharactersAndNothingElseDoes(String pattern, String name, boolean fits) {
        assertThat(NamePattern.of(pattern).matches(name)).isEqualTo(fits);
    }

    @ParameterizedTest
    @CsvSource({"LOAN*, loan_item, true", "straße, STRASSE, false", "ÉTÉ, été, true"})
    void caseCountsUnlessTold(String pattern, String name, boolean fits) {
        assertThat(NamePattern.of(pattern).matches(name)).isFalse();
        assertThat(NamePattern.of(pattern).inAnyCase().matches(name)).isEqualTo(fits);
    }

    @Property
    void whateverANameIsItFitsItselfAndItsBeginning(@ForAll String name, @ForAll String rest) {
        String plain = name.replace("*", "");
        assertThat(NamePattern.of(plain).matches(plain)).isTrue();
        assertThat(NamePattern.of(plain + "*").matches(plain + "." + rest)).isTrue();
        assertThat(NamePattern.of("*" + plain).matches(rest + "." + plain)).isTrue();
    }
}
