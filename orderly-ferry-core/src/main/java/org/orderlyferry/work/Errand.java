package org.orderlyferry.work;

import com.fasterxml.jackson.annotation.JsonSubTypes;
import com.fasterxml.jackson.annotation.JsonTypeInfo;
import java.util.ServiceLoader;
import org.apiguardian.api.API;
import org.orderlyferry.place.Secrets;
import org.orderlyferry.problem.UsageException;
import org.orderlyferry.progress.ProgressListener;

/**
 * What another process needs to know to run tasks, all of it but for the tasks themselves. A plain value, free of secrets.
 */
@API(status = API.Status.INTERNAL)
@JsonTypeInfo(use = JsonTypeInfo.Id.NAME, property = "errand")
@JsonSubTypes({
    @JsonSubTypes.Type(value = MovingErrand.class, name = "move"),
    @JsonSubTypes.Type(value = TallyErrand.class, name = "tally")
})
public sealed interface Errand permits MovingErrand, TallyErrand {

    /** The kind of {@link #site}. */
    String kind();

    /** How ends are opened, as {@link WorkSite.Reader} reads it. */
    String site();

    /**
     * Opens what is needed, and joins the work.
     *
     * @param told hears how records move
     * @throws UsageException if no such work is under way, or the source isn't as it was
     */
    Errands join(Secrets secrets, ProgressListener told);

    /** The errand in JSON. */
    default String toJson() {
        return WorkJson.write(this);
    }

    /**
     * Reads an errand.
     *
     * @throws UsageException if the text is none
     */
    static Errand parse(String json) {
        return WorkJson.read(json, Errand.class, "an errand");
    }

    /** How ends are opened. */
    static WorkSite opened(Errand errand) {
        for (WorkSite.Reader reader : ServiceLoader.load(WorkSite.Reader.class, Errand.class.getClassLoader())) {
            if (reader.kind().equals(errand.kind())) {
                return reader.read(errand.site());
            }
        }
        throw new UsageException("nobody here knows how to open a " + errand.kind());
    }
}
