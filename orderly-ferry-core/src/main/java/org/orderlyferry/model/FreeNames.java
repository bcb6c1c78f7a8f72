package org.orderlyferry.model;

import java.util.HashMap;
import java.util.HashSet;
import java.util.Map;
import java.util.Set;
import java.util.function.IntFunction;
import java.util.function.UnaryOperator;
import org.apiguardian.api.API;

/**
 * Gives each of many things a name of its own: the one that is wanted, or that with a number, in a time that doesn't grow
 * with how many want the same. Not safe for use by several threads.
 */
@API(status = API.Status.INTERNAL)
public final class FreeNames {

    private final UnaryOperator<String> compared;
    private final Set<String> taken = new HashSet<>();
    private final Map<String, Integer> next = new HashMap<>();

    /** None is taken yet; names are compared to the letter. */
    public FreeNames() {
        this(UnaryOperator.identity());
    }

    /**
     * None is taken yet.
     *
     * @param compared what of a name has to be another one, such as the name in small letters
     */
    public FreeNames(UnaryOperator<String> compared) {
        this.compared = compared;
    }

    /** Keeps a name from being given. */
    public void take(String name) {
        taken.add(compared.apply(name));
    }

    /** Whether a name was given, or is kept from being given. */
    public boolean isTaken(String name) {
        return taken.contains(compared.apply(name));
    }

    /**
     * Gives a name.
     *
     * @param wanted the name
     * @param numbered the same with a number, from 2 on
     */
    public String give(String wanted, IntFunction<String> numbered) {
        String name = wanted;
        if (!taken.add(compared.apply(name))) {
            int number = next.getOrDefault(wanted, 2);
            do {
                name = numbered.apply(number++);
            } while (!taken.add(compared.apply(name)));
            next.put(wanted, number);
        }
        return name;
    }
}
