package org.orderlyferry.databases;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ServiceLoader;
import org.junit.jupiter.api.Test;
import org.orderlyferry.databases.dialect.Dialect;
import org.orderlyferry.testkit.servers.TestSystem;

/** No dialect is left out of the tests that take each system. */
class TestSystemsTest {

    @Test
    void eachDialectHasARealDatabaseToBeTestedOn() {
        assertThat(ServiceLoader.load(Dialect.class).stream().map(d -> d.get().system()))
                .containsExactlyInAnyOrderElementsOf(TestSystem.names().toList());
    }
}
