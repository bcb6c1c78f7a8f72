package org.orderlyferry.cli;

import java.io.FileDescriptor;
import java.io.FileOutputStream;
import java.io.PrintWriter;
import java.nio.charset.StandardCharsets;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.TimeUnit;
import org.orderlyferry.progress.StopSignal;

/** Where the command line starts. */
public final class Main {

    /** How long Ctrl-C waits for running work to put everything back. */
    private static final int PATIENCE_SECONDS = 60;

    private Main() {}

    /** Runs one command and ends the process with its exit code. */
    public static void main(String[] arguments) {
        StopSignal stop = new StopSignal();
        CountDownLatch done = new CountDownLatch(1);
        Runtime.getRuntime().addShutdownHook(new Thread(() -> {
            stop.stop();
            try {
                done.await(PATIENCE_SECONDS, TimeUnit.SECONDS);
            } catch (InterruptedException e) {
                Thread.currentThread().interrupt();
            }
        }));
        PrintWriter out =
                // not by System.out, which keeps its errors to itself
                new PrintWriter(new FileOutputStream(FileDescriptor.out), false, StandardCharsets.UTF_8);
        PrintWriter err = new PrintWriter(System.err, true, StandardCharsets.UTF_8);
        Console console = new Console(out, err, Terminal.ofLauncher(System.getenv()), stop);
        int code;
        try {
            code = FerryCommand.run(console, arguments);
            out.flush();
        } catch (OutOfMemoryError e) {
            err.println("ferry: this process needs more memory than it has ("
                    + Amounts.bytes(Runtime.getRuntime().maxMemory()) + "); FERRY_JAVA_OPTIONS=-Xmx4g gives it more");
            code = ExitCode.FAILED;
        } finally {
            done.countDown();
        }
        System.exit(code);
    }
}
