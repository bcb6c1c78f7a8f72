package org.orderlyferry.examples.demo;

import org.orderlyferry.cli.CommandPlugin;
import org.orderlyferry.cli.Console;

/** Adds {@code demo} to the command line. */
public final class DemoPlugin implements CommandPlugin {
    @Override
    public Object command(Console console) {
        return new DemoCommand(console);
    }
}
