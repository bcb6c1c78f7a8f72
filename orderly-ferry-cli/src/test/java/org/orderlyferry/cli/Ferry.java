package org.orderlyferry.cli;

import java.io.PrintWriter;
import java.io.StringWriter;
import org.orderlyferry.progress.StopSignal;

/**
 * What one call of the command line gave.
 *
 * @param code the exit code
 * @param out standard output
 * @param err standard error
 */
public record Ferry(int code, String out, String err) {

    public static Ferry run(Terminal terminal, StopSignal stop, String... arguments) {
        StringWriter out = new StringWriter();
        StringWriter err = new StringWriter();
        int code = FerryCommand.run(new Console(new PrintWriter(out), new PrintWriter(err), terminal, stop), arguments);
        return new Ferry(code, out.toString(), err.toString());
    }

    public static Ferry run(Object... arguments) {
        String[] texts = new String[arguments.length];
        for (int i = 0; i < texts.length; i++) {
            texts[i] = arguments[i].toString();
        }
        return run(Terminal.NONE, new StopSignal(), texts);
    }
}
