package org.orderlyferry.cli.report;

import java.time.Duration;
import org.orderlyferry.cli.Amounts;

/** Seconds as people read them. */
final class Seconds {

    private Seconds() {}

    static String of(double seconds) {
        return Double.isFinite(seconds) ? Amounts.time(Duration.ofMillis(Math.round(seconds * 1000))) : "";
    }
}
