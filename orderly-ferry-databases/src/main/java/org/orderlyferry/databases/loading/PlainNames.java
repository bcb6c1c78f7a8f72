package org.orderlyferry.databases.loading;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.orderlyferry.databases.dialect.Arrival;
import org.orderlyferry.databases.dialect.ReservedNames;
import org.orderlyferry.databases.dialect.Writing;
import org.orderlyferry.model.Key;
import org.orderlyferry.model.TableDefinition;

/** Names that a person knows, for those that tables and their keys have while they are loaded. */
final class PlainNames {

    private final List<Arrival> arrivals;
    private final Writing writing;

    PlainNames(List<Arrival> arrivals, Writing writing) {
        // the longer names first: one may begin as another does
        this.arrivals = new ArrayList<>(arrivals);
        this.arrivals.sort(
                Comparator.comparing((Arrival a) -> a.loaded().name().length()).reversed());
        this.writing = writing;
    }

    /** A message of the server's with them. */
    String in(String message) {
        String plain = message;
        for (Arrival arrival : arrivals) {
            if (ReservedNames.isReserved(arrival.loaded().name())) {
                for (Map.Entry<String, String> name : ownNames(arrival).entrySet()) {
                    plain = plain.replaceAll(
                            "\\b" + Pattern.quote(name.getKey()) + "\\b", Matcher.quoteReplacement(name.getValue()));
                }
                plain = plain.replaceAll(
                        "\\b" + arrival.loaded().name() + "o?\\b",
                        Matcher.quoteReplacement(arrival.name().name()));
            }
        }
        return plain;
    }

    /** What keys and indexes are called while a table is loaded, each with what a person calls it. */
    private Map<String, String> ownNames(Arrival arrival) {
        TableDefinition known = arrival.table();
        TableDefinition loaded = writing.settling().whileLoaded(arrival);
        Map<String, String> names = new LinkedHashMap<>();
        loaded.primaryKey()
                .ifPresent(k ->
                        names.put(k.name(), known.primaryKey().map(Key::shown).orElse("")));
        for (int i = 0;
                i < Math.min(loaded.uniqueKeys().size(), known.uniqueKeys().size());
                i++) {
            names.put(
                    loaded.uniqueKeys().get(i).name(), known.uniqueKeys().get(i).shown());
        }
        for (int i = 0; i < Math.min(loaded.indexes().size(), known.indexes().size()); i++) {
            names.put(loaded.indexes().get(i).name(), known.indexes().get(i).shown());
        }
        names.keySet().removeIf(n -> !n.startsWith(arrival.loaded().name()));
        return names;
    }
}
