package org.orderlyferry.cli;

import java.time.Duration;
import java.util.Locale;
import org.apiguardian.api.API;

/** Numbers as people read them. */
@API(status = API.Status.INTERNAL)
public final class Amounts {

    private static final String[] UNITS = {"B", "kB", "MB", "GB", "TB", "PB"};

    private Amounts() {}

    /** A count with a comma at each third digit. */
    public static String count(long number) {
        return String.format(Locale.ROOT, "%,d", number);
    }

    /** A count with its noun. */
    public static String count(long number, String noun) {
        return count(number) + " " + noun + (number == 1 ? "" : "s");
    }

    /** A size in decimal units (ISO/IEC 80000-13). */
    public static String bytes(long bytes) {
        double size = bytes;
        int unit = 0;
        while (size >= 999.5 && unit < UNITS.length - 1) {
            size /= 1000;
            unit++;
        }
        return String.format(Locale.ROOT, unit == 0 || size >= 99.95 ? "%.0f %s" : "%.1f %s", size, UNITS[unit]);
    }

    public static String time(Duration time) {
        long seconds = time.toSeconds();
        if (seconds < 60) {
            return String.format(Locale.ROOT, "%.1f s", time.toMillis() / 1000.0);
        }
        return seconds < 3600
                ? String.format(Locale.ROOT, "%d min %02d s", seconds / 60, seconds % 60)
                : String.format(Locale.ROOT, "%d h %02d min", seconds / 3600, seconds % 3600 / 60);
    }
}
