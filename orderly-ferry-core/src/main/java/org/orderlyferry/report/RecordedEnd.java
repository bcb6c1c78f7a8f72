package org.orderlyferry.report;

import org.jspecify.annotations.NullMarked;

/**
 * One end of the work.
 *
 * @param address where it is, without secrets
 * @param system what it is, in its own words with its version; empty where nobody has asked
 */
@NullMarked
public record RecordedEnd(String address, String system) {
    public RecordedEnd {
        address = Bounded.text(address);
        system = Bounded.text(system);
    }
}
