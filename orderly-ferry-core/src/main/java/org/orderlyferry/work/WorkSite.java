package org.orderlyferry.work;

import java.util.Optional;
import org.apiguardian.api.API;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Secrets;
import org.orderlyferry.place.TargetPlace;

/**
 * How another process opens both ends of a piece of work: a plain value that is sent there, with secrets unresolved. Whoever
 * reads it there is found by its {@linkplain #kind() kind}.
 */
@API(status = API.Status.INTERNAL)
public interface WorkSite {

    /** Which {@link Reader} reads it. */
    String kind();

    /** What that one reads. */
    String text();

    /**
     * Opens the source.
     *
     * @param moment what {@link Place#moment()} gave; empty for whatever is there
     */
    Place source(Secrets secrets, Optional<String> moment);

    /**
     * Opens the target.
     *
     * @param system what the source is, for targets that keep it
     */
    TargetPlace target(Secrets secrets, String system);

    /** Reads sites of one kind. Found by {@link java.util.ServiceLoader}. */
    interface Reader {

        /** The kind. */
        String kind();

        /**
         * Reads one.
         *
         * @throws org.orderlyferry.problem.UsageException if the text is none
         */
        WorkSite read(String text);
    }
}
