package org.orderlyferry.integrity;

import java.util.List;
import java.util.Optional;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.TextForms;
import org.orderlyferry.tally.ComparisonForm;

/** What a table of the target demands of the records that come to it. */
sealed interface Constraint {

    /** Where the records are that must keep it: a table of the source. */
    Columns of();

    /** Where the target has records already that count, too. */
    Optional<Columns> there();

    /**
     * Some columns of a table, by the names of the place that has them.
     *
     * @param forms in which forms their values are held against others
     * @param texts what is made of their texts before
     */
    record Columns(TableName table, List<String> names, List<ComparisonForm> forms, List<TextForms> texts) {
        public Columns {
            names = List.copyOf(names);
            forms = List.copyOf(forms);
            texts = List.copyOf(texts);
        }

        /** Whether values are held against others as they are. */
        boolean areAsTheyAre() {
            return texts.stream().allMatch(t -> t == TextForms.AS_THEY_ARE);
        }
    }

    /**
     * A unique constraint, or a primary key: no two records have the same values, unless one of them is null.
     *
     * @param there where the target has records already that count, too; empty where it has none, or where these give way
     */
    record Unique(Columns of, Optional<Columns> there) implements Constraint {}

    /**
     * A referential constraint: its values are those of a record that is referred to, unless one of them is null (ISO/IEC
     * 9075-2, MATCH SIMPLE).
     *
     * @param target the table that is referred to, by its name at the target
     * @param coming where records of it are that come as well
     * @param there where the target has records of it that stay
     */
    record Reference(Columns of, TableName target, Optional<Columns> coming, Optional<Columns> there)
            implements Constraint {}
}
