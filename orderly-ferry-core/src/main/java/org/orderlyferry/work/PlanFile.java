package org.orderlyferry.work;

import java.io.BufferedOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.io.Reader;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Optional;
import org.jspecify.annotations.NullMarked;
import org.orderlyferry.io.NewFile;
import org.orderlyferry.problem.PlaceException;
import org.orderlyferry.problem.UsageException;

/**
 * Where a piece of work keeps its plan, so that it goes on by the same one after it was cut short: the plan is written
 * before anything moves, and followed from then on instead of planning anew. Immutable.
 *
 * @param path the file; its folder is there
 * @param moments whether the source may have changed meanwhile
 */
@NullMarked
public record PlanFile(Path path, Moments moments) {

    /** What the source does between a run that was cut short and the one that goes on. */
    public enum Moments {
        /** Nothing: what was moved is what is there now, slice by slice. */
        STILL,
        /** It may change: only tables that were moved whole are kept, and they are of an earlier moment. */
        SEVERAL
    }

    /** The plan that is kept; empty where none was made yet. */
    public Optional<WorkPlan> read() {
        if (!Files.isRegularFile(path)) {
            return Optional.empty();
        }
        try (Reader json = Files.newBufferedReader(path)) {
            return Optional.of(WorkJson.read(json, WorkPlan.class, "a plan"));
        } catch (IOException e) {
            throw new PlaceException(path.toString(), "can't be read: " + e.getMessage(), e);
        }
    }

    void write(WorkPlan plan) {
        try {
            NewFile.filled(path, file -> {
                OutputStream out = new BufferedOutputStream(file, 64 * 1024);
                WorkJson.write(plan, out);
                out.flush();
            });
        } catch (IOException e) {
            throw new PlaceException(path.toString(), "can't be written: " + e.getMessage(), e);
        }
    }

    /** Refuses to follow a plan of other work. */
    WorkPlan mustBeOf(WorkOrder order, WorkPlan plan) {
        if (!plan.order().with(WorkOrder.Flow.DEFAULT).equals(order.with(WorkOrder.Flow.DEFAULT))) {
            throw new UsageException("the plan in " + path + " is of other work than this");
        }
        return plan;
    }
}
