package org.orderlyferry.databases.dialect;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.DateTimeException;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;

class DriverFaultTest {

    private static RuntimeException thrown(RuntimeException e, String... classes) {
        e.setStackTrace(Stream.of(classes)
                .map(c -> new StackTraceElement(c, "read", null, 1))
                .toArray(StackTraceElement[]::new));
        return e;
    }

    @Test
    void whatADriverThrowsIsAFailureOfTheDatabase() {
        RuntimeException e = thrown(
                new DateTimeException("no such hour"),
                "java.time.LocalTime",
                "org.quillmoor.jdbc.Row",
                "org.orderlyferry.databases.driver.DriverCells");
        Throwable fault = DriverFault.of(e).orElseThrow();
        assertThat(fault)
                .hasMessage("its driver fails: DateTimeException: no such hour")
                .hasCause(e);
        Throwable silent = DriverFault.of(thrown(new IllegalArgumentException(), "org.quillmoor.jdbc.Row"))
                .orElseThrow();
        assertThat(silent).hasMessage("its driver fails: IllegalArgumentException");
    }

    /** A mistake of this program is not to be taken for one of the database. */
    @Test
    void whatThisProgramThrowsIsNot() {
        assertThat(DriverFault.of(thrown(
                        new NullPointerException(),
                        "java.util.Objects",
                        "org.orderlyferry.databases.driver.DriverCells",
                        "org.quillmoor.jdbc.Row")))
                .isEmpty();
        assertThat(DriverFault.of(thrown(new IllegalStateException()))).isEmpty();
    }
}
