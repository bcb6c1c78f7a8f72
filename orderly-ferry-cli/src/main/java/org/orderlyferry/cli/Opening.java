package org.orderlyferry.cli;

import java.time.Duration;
import org.orderlyferry.place.OpenOptions;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.PlaceAddress;
import org.orderlyferry.place.Places;
import org.orderlyferry.progress.SideThread;

/** Opens a place, and says so when that takes its time: some files have to be read through before anything is known of them. */
final class Opening {

    /** Milliseconds after which a person begins to wonder, and between two lines in a log. */
    private static final long WONDER = 1_000;

    private static final long LOG = 10_000;

    private Opening() {}

    static Place of(Console console, PlaceAddress address, OpenOptions options) {
        if (address.isJdbc()) {
            // a server tells at once, or asks for a password, which nothing must be written over
            return Places.open(address, options);
        }
        long begun = System.nanoTime();
        boolean terminal = console.terminal().err();
        SideThread teller = SideThread.start("ferry-opening", () -> {
            try {
                Thread.sleep(terminal ? WONDER : LOG);
                while (true) {
                    tell(console, address, Duration.ofNanos(System.nanoTime() - begun));
                    Thread.sleep(terminal ? WONDER : LOG);
                }
            } catch (InterruptedException e) {
                // it is open
            }
        });
        try {
            return Places.open(address, options);
        } finally {
            teller.stop();
            if (terminal
                    && System.nanoTime() - begun > Duration.ofMillis(WONDER).toNanos()) {
                console.err().print("\r\u001b[K");
                console.err().flush();
            }
        }
    }

    private static void tell(Console console, PlaceAddress address, Duration since) {
        String text = "finding out what " + Escapes.shown(address.toString()) + " holds  " + Amounts.time(since);
        if (console.terminal().err()) {
            console.err()
                    .print("\r\u001b[K" + TextTable.cut(text, console.terminal().columns() - 1));
        } else {
            console.err().println(text);
        }
        console.err().flush();
    }
}
