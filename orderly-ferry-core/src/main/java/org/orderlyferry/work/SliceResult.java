package org.orderlyferry.work;

import com.fasterxml.jackson.annotation.JsonIgnore;
import java.util.List;
import org.apiguardian.api.API;
import org.orderlyferry.model.Finding;
import org.orderlyferry.place.TablePart;
import org.orderlyferry.tally.Tally;

/**
 * What became of a slice; it counts once. A plain value.
 *
 * @param part which part, and the task's number
 * @param written how many records were written
 * @param rejected how many were read and not written, each with a reason
 * @param leftOut how many a condition has left out
 * @param bytes of the values that were written
 * @param fileBytes of the files that were written; 0 in a target that isn't made of files
 * @param tally of the records that were written
 * @param read of these, and of those that the target couldn't hold
 * @param findings what a person should know
 */
@API(status = API.Status.INTERNAL)
public record SliceResult(
        TablePart part,
        long written,
        long rejected,
        long leftOut,
        long bytes,
        long fileBytes,
        Tally tally,
        @JsonIgnore Tally read,
        List<Finding> findings) {

    public SliceResult {
        // a receipt is only gone by where nothing was rejected
        read = read == null ? tally : read;
        findings = List.copyOf(findings);
    }

    /** The result in JSON, to be handed on. */
    public String toJson() {
        return WorkJson.write(this);
    }

    /**
     * Reads a result.
     *
     * @throws org.orderlyferry.problem.UsageException if the text is none
     */
    public static SliceResult parse(String json) {
        return WorkJson.read(json, SliceResult.class, "a slice's result");
    }
}
