package org.orderlyferry.work;

import java.util.List;
import java.util.Optional;
import org.apiguardian.api.API;
import org.orderlyferry.progress.Crew;

/** Has tasks run by other processes, which open both ends themselves. */
@API(status = API.Status.INTERNAL)
public interface RemoteEngine extends AutoCloseable {

    /** What it is, for people. */
    String name();

    /**
     * An engine for one piece of work.
     *
     * @param errand what those processes need to know
     * @param lanes how many tasks run at once, at most, however many processes there are
     * @param crew asked again and again whether to go on
     */
    Engine engine(Errand errand, int lanes, Crew crew);

    /** Lets go of it. */
    @Override
    void close();

    /** Knows an engine by its name. Found by {@link java.util.ServiceLoader}. */
    interface Provider {

        /** What a person calls it. */
        String name();

        /**
         * Whether this process can lead the work.
         *
         * @throws org.orderlyferry.problem.UsageException if it could, were it started otherwise
         */
        boolean isHere();

        /** Starts it, in a process that can. */
        RemoteEngine start();

        /**
         * Has a command run again by a process that can lead the work, and waits for its end.
         *
         * @param main the class that takes the command
         * @param master where the engine is, as it calls that itself; empty for what its own settings say
         * @return the command's exit code
         * @throws org.orderlyferry.problem.UsageException if what is needed for it isn't there
         */
        int again(Class<?> main, Optional<String> master, List<String> arguments);
    }
}
