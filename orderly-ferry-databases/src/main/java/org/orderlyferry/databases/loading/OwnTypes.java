package org.orderlyferry.databases.loading;

import java.util.List;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.LeftBehind;
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
        return plan.routes().stream()
                .filter(r -> r.arrival().source().equals(table))
                .anyMatch(r -> isKept(type.name(), r, plan));
    }

    private static boolean isKept(String name, Route route, LoadPlan plan) {
        TableName table = route.arrival().source();
        for (int i = 0; i < route.from().size(); i++) {
            ColumnDefinition from = route.from().get(i);
            if (name.equals(table + "." + from.name())) {
                String into = route.into().columns().get(i).sourceType();
                return plan.held(table, from.sourceType()).filter(into::equals).isPresent();
            }
        }
        return false;
    }
}
