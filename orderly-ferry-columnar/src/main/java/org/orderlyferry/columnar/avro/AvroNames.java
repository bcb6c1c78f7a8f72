package org.orderlyferry.columnar.avro;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Set;

/** Names that the specification takes: letters and digits of ASCII, and underscores. */
final class AvroNames {

    private AvroNames() {}

    static String of(String name) {
        String plain = name.replaceAll("[^A-Za-z0-9_]", "_");
        return plain.isEmpty() || Character.isDigit(plain.charAt(0)) ? "_" + plain : plain;
    }

    /** One of its own for each. */
    static List<String> of(List<String> names) {
        Set<String> taken = new HashSet<>();
        List<String> all = new ArrayList<>();
        for (String name : names) {
            String free = of(name);
            for (int number = 2; !taken.add(free); number++) {
                free = of(name) + "_" + number;
            }
            all.add(free);
        }
        return all;
    }
}
