package org.orderlyferry.profile;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.orderlyferry.format.Outline;
import org.orderlyferry.format.Proposing;
import org.orderlyferry.format.ValueStyle;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.Finding;
import org.orderlyferry.model.Key;
import org.orderlyferry.model.TableDefinition;

/**
 * Definitions for a table that has none, from all of its values.
 *
 * @param table the table with types and a key
 * @param styles how columns write their values where that isn't their value text
 * @param findings what is odd, and what can't be decided
 * @param keys all columns, or pairs of them, that are unique and never null
 */
public record Proposal(
        TableDefinition table, Map<String, ValueStyle> styles, List<Finding> findings, List<List<String>> keys) {

    /**
     * Proposes definitions.
     *
     * @param told how values are written in the file, where that is told
     */
    public static Proposal of(TableProfile profile, Outline.Source source, List<ValueStyle> told) {
        return of(profile, source, told, Proposing.DEFAULT);
    }

    /** Proposes definitions, as far as a person hasn't decided already. */
    public static Proposal of(TableProfile profile, Outline.Source source, List<ValueStyle> told, Proposing decided) {
        List<Finding> findings = new ArrayList<>(profile.findings());
        ProposedTypes types = new ProposedTypes(profile, source, told, decided, findings);
        List<ColumnDefinition> columns = new ArrayList<>();
        for (ColumnProfile column : profile.columns()) {
            columns.add(column.column().withType(types.of(column)));
        }
        List<List<String>> keys = profile.candidateKeys();
        TableDefinition.Builder table = profile.table().toBuilder().columns(columns);
        ProposedKey proposed = new ProposedKey(profile, decided, findings);
        proposed.of(keys, columns).ifPresent(names -> {
            table.columns(columns.stream()
                    .map(c -> names.contains(c.name())
                            ? c.toBuilder().nullable(false).build()
                            : c)
                    .toList());
            table.primaryKey(new Key("", names));
        });
        proposed.twice();
        return new Proposal(table.build(), types.styles(), findings, keys);
    }
}
