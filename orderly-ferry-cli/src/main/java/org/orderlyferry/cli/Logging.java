package org.orderlyferry.cli;

import ch.qos.logback.classic.Level;
import ch.qos.logback.classic.Logger;
import org.slf4j.LoggerFactory;

/** How much of the log a person sees. */
final class Logging {

    private Logging() {}

    static void verbose() {
        if (isOurs() && LoggerFactory.getLogger("org.orderlyferry") instanceof Logger logger) {
            logger.setLevel(Level.DEBUG);
        }
    }

    /** On a cluster's engine the log is the engine's, with levels of its own. */
    private static boolean isOurs() {
        return LoggerFactory.getILoggerFactory().getClass().getName().startsWith("ch.qos.logback.");
    }
}
