package org.orderlyferry.work;

import java.util.List;
import java.util.Optional;
import org.apiguardian.api.API;
import org.jspecify.annotations.NullMarked;
import org.orderlyferry.place.LoadMode;
import org.orderlyferry.place.LoadModes;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Removal;
import org.orderlyferry.place.TargetPlace;

/**
 * Loads tables of an export set, or of any other place, into a target: creates them, moves the records, adds keys,
 * references and indexes. If anything fails, the target is as it was. Not safe for use by several threads.
 *
 * <pre>{@code
 * try (Place set = Places.open("set"); TargetPlace target = Places.openTarget("herbarium.sqlite")) {
 *     TransferResult result = Load.from(set).into(target);
 * }
 * }</pre>
 */
@NullMarked
public final class Load extends Moving<Load> {

    private LoadModes modes = LoadModes.CREATE;
    private boolean rehearsal;
    private boolean acceptChanges;
    private AtTheEnd end = AtTheEnd.NOTHING;

    private Load(Place source) {
        super(source);
    }

    @Override
    Load self() {
        return this;
    }

    /** A load of all the place's tables, unless told otherwise. */
    public static Load from(Place source) {
        return new Load(source);
    }

    /** What is done with tables that are there already; {@link LoadMode#CREATE} unless told otherwise. */
    public Load mode(LoadMode value) {
        return modes(LoadModes.all(value));
    }

    /** The same, table by table. */
    public Load modes(LoadModes value) {
        modes = value;
        return this;
    }

    /** Whether only to look what would happen: each value is checked, and the target stays as it is. */
    public Load rehearsal(boolean value) {
        rehearsal = value;
        return this;
    }

    /** Whether a set is taken although its files aren't those that it was made with; each value is still checked. */
    public Load acceptChanges(boolean value) {
        acceptChanges = value;
        return this;
    }

    /**
     * What goes out of tables that stay together with the load's end, as far as the target can do that. Nothing unless told
     * otherwise.
     */
    @API(status = API.Status.INTERNAL)
    public Load removing(List<Removal> value) {
        end = new AtTheEnd(value, end.keep());
        return this;
    }

    /**
     * Has tables that are replaced kept by the target, by a name; they go unless told otherwise.
     *
     * @param name small letters and digits
     */
    @API(status = API.Status.INTERNAL)
    public Load keepingReplaced(String name) {
        end = new AtTheEnd(end.removals(), Optional.of(name));
        return this;
    }

    /**
     * Does it.
     *
     * @throws org.orderlyferry.problem.UsageException if what is there doesn't allow it; nothing was changed then
     * @throws org.orderlyferry.problem.FerryException if it fails; the target is as it was then
     */
    public TransferResult into(TargetPlace target) {
        WorkOrder order = new WorkOrder(
                WorkOrder.Kind.LOAD,
                WorkEnd.of(source().address()),
                WorkEnd.of(target.address()),
                selection(List.of()),
                new WorkOrder.Handling(modes, rehearsal, acceptChanges),
                flow());
        return done(order, target, end);
    }
}
