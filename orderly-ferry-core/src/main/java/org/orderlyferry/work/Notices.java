package org.orderlyferry.work;

import java.util.List;
import java.util.Set;
import java.util.stream.Collectors;
import org.orderlyferry.model.Finding;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.Place;

/** What a person should know of how a source is read, as far as it is about what moves. */
final class Notices {

    private Notices() {}

    static List<Finding> of(Place source, WorkPlan plan) {
        Set<TableName> moved =
                plan.tables().stream().map(t -> t.definition().name()).collect(Collectors.toSet());
        List<TableName> all = source.tables();
        return source.notices().stream()
                .filter(f -> moved.contains(f.table()) || !all.contains(f.table()))
                .toList();
    }
}
