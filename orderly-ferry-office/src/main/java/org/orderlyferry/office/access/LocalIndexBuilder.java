package org.orderlyferry.office.access;

import com.healthmarketscience.jackcess.IndexBuilder;
import com.healthmarketscience.jackcess.impl.JetFormat;
import java.util.HashSet;
import java.util.Locale;
import java.util.Set;

/**
 * An index whose columns are found also where a language has another capital for a letter, as Turkish has for i: the library looks
 * for them in that language's capitals among those of no language.
 */
final class LocalIndexBuilder extends IndexBuilder {

    LocalIndexBuilder(String name) {
        super(name);
    }

    @Override
    public void validate(Set<String> columns, JetFormat format) {
        Set<String> all = new HashSet<>(columns);
        getColumns().stream()
                .filter(c -> columns.contains(c.getName().toUpperCase(Locale.ROOT)))
                .forEach(c -> all.add(c.getName().toUpperCase(Locale.getDefault())));
        super.validate(all, format);
    }
}
