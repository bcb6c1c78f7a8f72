package org.orderlyferry.work;

import com.fasterxml.jackson.annotation.JsonProperty;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.NullMarked;
import org.orderlyferry.place.Cut;
import org.orderlyferry.place.LoadModes;
import org.orderlyferry.place.Query;
import org.orderlyferry.problem.UsageException;

/**
 * What is asked for. A plain value that can be written down and sent elsewhere.
 *
 * @param kind what is done
 * @param source where records come from
 * @param target where they go
 * @param selection which records
 * @param handling what is done with what is there
 * @param flow how fast, and how many at once; the same work is done whatever it says
 */
@NullMarked
public record WorkOrder(Kind kind, WorkEnd source, WorkEnd target, Selection selection, Handling handling, Flow flow) {

    /** Kinds of work. */
    public enum Kind {
        /** Tables become an export set; one that can't be read is left out. */
        EXPORT,
        /** Tables are loaded into a place, all of them or none. */
        LOAD
    }

    /**
     * Which records.
     *
     * @param tables names, in which {@code *} stands for any characters; none for all tables, where there is no query
     * @param queries whose results are carried as tables
     * @param sliceRows how many records a slice has, about
     * @param sliceBytes how many bytes of a table or file it has, about, where that is fewer records
     * @param cutBy by which column a table, or a query's result, is cut, by its name
     */
    public record Selection(
            List<String> tables, List<Query> queries, long sliceRows, long sliceBytes, Map<String, String> cutBy) {

        /** All tables. */
        public static final Selection ALL =
                new Selection(List.of(), List.of(), Cut.DEFAULT_ROWS, Cut.DEFAULT_BYTES, Map.of());

        public Selection {
            tables = List.copyOf(tables);
            queries = List.copyOf(queries);
            cutBy = Map.copyOf(cutBy);
            if (sliceRows < 1) {
                throw new UsageException("a slice has at least one record");
            }
            if (sliceBytes < 1) {
                throw new UsageException("a slice has at least one byte");
            }
        }
    }

    /**
     * What is done with what is there.
     *
     * @param modes what is done with tables that are there already
     * @param rehearsal whether only to look what would happen
     * @param acceptChanges whether a set is taken although its files aren't those that it was made with
     */
    public record Handling(@JsonProperty("mode") LoadModes modes, boolean rehearsal, boolean acceptChanges) {

        /** Refuses what is there. */
        public static final Handling DEFAULT = new Handling(LoadModes.CREATE, false, false);
    }

    /**
     * How fast.
     *
     * @param lanes how many slices move at once, at most
     * @param rowsPerSecond how many records move a second, at most; 0 for any number
     * @param bytesPerSecond how many bytes of values, likewise
     */
    public record Flow(int lanes, long rowsPerSecond, long bytesPerSecond) {

        /** One lane, as fast as it goes. */
        public static final Flow DEFAULT = new Flow(1, 0, 0);

        public Flow {
            if (lanes < 1) {
                throw new UsageException("at least one lane is needed");
            }
            if (rowsPerSecond < 0 || bytesPerSecond < 0) {
                throw new UsageException("a pace can't be negative");
            }
        }
    }

    /** An order for all tables, which refuses what is there, in one lane. */
    public static WorkOrder of(Kind kind, WorkEnd source, WorkEnd target) {
        return new WorkOrder(kind, source, target, Selection.ALL, Handling.DEFAULT, Flow.DEFAULT);
    }

    /** The same for other records. */
    public WorkOrder with(Selection other) {
        return new WorkOrder(kind, source, target, other, handling, flow);
    }

    /** The same with something else done with what is there. */
    public WorkOrder with(Handling other) {
        return new WorkOrder(kind, source, target, selection, other, flow);
    }

    /** The same, slower or faster. */
    public WorkOrder with(Flow other) {
        return new WorkOrder(kind, source, target, selection, handling, other);
    }
}
