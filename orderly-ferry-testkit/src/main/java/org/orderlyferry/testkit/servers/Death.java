package org.orderlyferry.testkit.servers;

import java.util.List;
import java.util.concurrent.TimeUnit;
import java.util.stream.Stream;

/** Ends a server's process, and all that it has begun, as a cut of the power would: at once, with nothing put in order. */
final class Death {

    private Death() {}

    static void of(ProcessHandle server) {
        // those first who would be told by the first one's end
        List<ProcessHandle> all =
                Stream.concat(Stream.of(server), server.descendants()).toList();
        all.forEach(ProcessHandle::destroyForcibly);
        for (ProcessHandle process : all) {
            try {
                process.onExit().get(30, TimeUnit.SECONDS);
            } catch (Exception e) {
                throw new IllegalStateException("process " + process.pid() + " lives on", e);
            }
        }
    }
}
