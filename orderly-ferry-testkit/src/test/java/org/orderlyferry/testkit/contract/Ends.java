package org.orderlyferry.testkit.contract;

import java.nio.file.Path;
import java.util.function.Function;

/**
 * A kind of place that contracts are tried on.
 *
 * @param name for people
 * @param fresh the address of a place of this kind that isn't there yet, or is empty; below a folder where it has files
 * @param holdsSeveralTables whether it takes a whole garden, or one table
 * @param takesMore whether records can be added to tables that are there
 */
public record Ends(String name, Function<Path, String> fresh, boolean holdsSeveralTables, boolean takesMore) {
    @Override
    public String toString() {
        return name;
    }
}
