package org.orderlyferry.databases.loading;

import java.util.List;
import org.orderlyferry.databases.dialect.TypeMapping;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.LeftBehind;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;

/** Types of a system's own, whose values are carried as texts, and which another server of that system makes of them again. */
final class OwnTypes {

    private static final String TYPE = "type";

    private OwnTypes() {}

    /** What is left behind, without the types that the columns have at the target. */
    static List<LeftBehind> without(List<LeftBehind> source, LoadPlan plan) {
        return source.stream()
                .filter(l -> !l.kind().equals(TYPE) || l.table().isEmpty() || !isKept(l, plan))
                .toList();
    }

    private static boolean isKept(LeftBehind type, LoadPlan plan) {
        TableName table = type.table().orElseThrow();
        return plan.ownTypes(table).isPresent()
                && isKept(
                        type.name()
                                .substring(Math.min(
                                        type.name().length(), table.toString().length() + 1)),
                        plan.route(table),
                        plan.ownTypes(table).get());
    }

    private static boolean isKept(String column, Route route, TypeMapping types) {
        TableDefinition into = route.into();
        for (int i = 0; i < route.from().size(); i++) {
            ColumnDefinition from = route.from().get(i);
            if (column.equals(from.name())) {
                return !from.sourceType().isEmpty()
                        && types.held(from.sourceType())
                                .filter(into.columns().get(i).sourceType()::equals)
                                .isPresent();
            }
        }
        return false;
    }
}
