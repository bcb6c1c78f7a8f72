package org.orderlyferry.databases.place;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Names of systems as drivers give them, with their versions. */
class SystemVersionTest {

    @ParameterizedTest
    @CsvSource({
        "H2, 2.3.232 (2024-08-11), H2 2.3.232",
        "PostgreSQL, 15.4 (Moss 15.4-1), PostgreSQL 15.4",
        "Firebird 3.0, 3.0.11, Firebird 3.0.11",
        "Firebird 3.0, 4.0, Firebird 3.0 4.0",
        "Fern 2, v2b, Fern 2b",
        "Fern, none, Fern none"
    })
    void aVersionIsToldOnce(String system, String told, String shown) {
        assertThat(SystemVersion.named(system, told)).isEqualTo(shown);
    }
}
