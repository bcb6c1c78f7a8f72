package org.orderlyferry.cli;

/** A further command, found by {@link java.util.ServiceLoader}. */
public interface CommandPlugin {

    /** The command, annotated for picocli; a new one for each call. */
    Object command(Console console);
}
