package org.orderlyferry.work;

import org.jspecify.annotations.NullMarked;
import org.orderlyferry.place.TablePart;

/**
 * One slice to be moved: the unit of work, of retry and of parallelism. A plain value that says all that is to be done,
 * together with its plan.
 *
 * @param part which part of its table's records it is, and the task's number
 * @param source where its records are
 */
@NullMarked
public record SliceTask(TablePart part, SliceSource source) {

    /** The task's number in its plan, from 0; a result counts once by it. */
    public int number() {
        return part.task();
    }

    /** The task in JSON, to be handed on. */
    public String toJson() {
        return WorkJson.write(this);
    }

    /**
     * Reads a task.
     *
     * @throws org.orderlyferry.problem.UsageException if the text is none
     */
    public static SliceTask parse(String json) {
        return WorkJson.read(json, SliceTask.class, "a slice");
    }
}
