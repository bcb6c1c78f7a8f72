package org.orderlyferry.databases.driver;

import java.util.Set;

/**
 * How values of a type are given to a driver.
 *
 * @param way by which way
 * @param asText which of them are given as texts all the same, since objects of these are shifted or refused
 */
record Given(Way way, Set<Shift> asText) {

    /** As JDBC has it. */
    static final Given OBJECT = new Given(Way.OBJECT, Set.of());

    /** Whether a date or a time is given as an object. */
    boolean isObject(String text) {
        if (way != Way.OBJECT) {
            return false;
        }
        for (Shift shift : asText) {
            if (shift.has(text)) {
                return false;
            }
        }
        return true;
    }
}
