package org.orderlyferry.problem;

import java.util.Collection;
import java.util.stream.Collectors;
import org.apiguardian.api.API;

/** What is at fault, by name, as a person can still read it: of thousands, the first ones and how many more. */
@API(status = API.Status.INTERNAL)
public final class Listed {

    private static final int MOST = 20;

    private Listed() {}

    /** In their order, with commas between them. */
    public static String of(Collection<?> names) {
        return of(names, ", ");
    }

    /** The same with something else between them. */
    public static String of(Collection<?> names, String between) {
        String first = names.stream().limit(MOST).map(String::valueOf).collect(Collectors.joining(between));
        int more = names.size() - MOST;
        return more > 0 ? first + (between.isBlank() ? between : " ") + "and " + more + " more" : first;
    }
}
