package org.orderlyferry.work;

import com.fasterxml.jackson.annotation.JsonCreator;
import com.fasterxml.jackson.annotation.JsonIgnore;
import com.fasterxml.jackson.annotation.JsonProperty;
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
        Tally read,
        List<Finding> findings) {

    public SliceResult {
        findings = List.copyOf(findings);
    }

    /** A result as it is handed on: a receipt is only gone by where nothing was rejected, so all that was read was written. */
    @JsonCreator
    static SliceResult received(
            @JsonProperty("part") TablePart part,
            @JsonProperty("written") long written,
            @JsonProperty("rejected") long rejected,
            @JsonProperty("leftOut") long leftOut,
            @JsonProperty("bytes") long bytes,
            @JsonProperty("fileBytes") long fileBytes,
            @JsonProperty("tally") Tally tally,
            @JsonProperty("findings") List<Finding> findings) {
        return new SliceResult(part, written, rejected, leftOut, bytes, fileBytes, tally, tally, findings);
    }

    /** The tally of all records that were read, whether the target could hold them or not; not handed on. */
    @Override
    @JsonIgnore
    public Tally read() {
        return read;
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
