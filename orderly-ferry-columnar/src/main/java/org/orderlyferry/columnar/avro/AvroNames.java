package org.orderlyferry.columnar.avro;

import java.util.ArrayList;
import java.util.List;
import org.orderlyferry.model.FreeNames;

/** Names that the specification takes: letters and digits of ASCII, and underscores. */
final class AvroNames {

    private AvroNames() {}

    static String of(String name) {
        String plain = name.replaceAll("[^A-Za-z0-9_]", "_");
        return plain.isEmpty() || Character.isDigit(plain.charAt(0)) ? "_" + plain : plain;
    }

    /** One of its own for each. */
    static List<String> of(List<String> names) {
        FreeNames free = new FreeNames();
        List<String> all = new ArrayList<>();
        for (String name : names) {
            String plain = of(name);
            all.add(free.give(plain, number -> plain + "_" + number));
        }
        return all;
    }
}
