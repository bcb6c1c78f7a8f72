package org.orderlyferry.cli;

import com.fasterxml.jackson.databind.node.JsonNodeFactory;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.time.temporal.ChronoUnit;
import java.util.List;
import java.util.Locale;
import java.util.concurrent.Callable;
import org.orderlyferry.crossing.Arrival;
import org.orderlyferry.crossing.Watch;
import org.orderlyferry.problem.PlaceException;
import org.orderlyferry.problem.StoppedException;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;

@Command(
        name = "watch",
        mixinStandardHelpOptions = true,
        description =
                "Take files that arrive in a folder, each once, by its content, when it is whole. A file that isn't as the"
                        + " crossing expects is refused as a whole, with its reasons.",
        footer = {"", "Example: ferry watch weekly.yaml --once"})
final class WatchCommand implements Callable<Integer> {

    private final Console console;

    @Mixin
    private CrossingFile file;

    @Option(names = "--once", description = "Take what is there, and end: for cron and timers. Default: stay and wait.")
    private boolean once;

    @Option(names = "--list", description = "Tell which files came, with how many records, and take none.")
    private boolean list;

    @Option(
            names = "--every",
            paramLabel = "SECONDS",
            description = "How long to wait between two looks. Default: ${DEFAULT-VALUE}.")
    private int every = 10;

    @Mixin
    private JsonOption json;

    WatchCommand(Console console) {
        this.console = console;
    }

    @Override
    public Integer call() {
        Watch watch = Watch.of(file.read()).secrets(PlaceOptions.secrets()).stopSignal(console.stop());
        if (list) {
            show(watch.arrivals());
            return ExitCode.DONE;
        }
        if (once) {
            List<Arrival> seen = watch.once();
            show(seen);
            return seen.stream().anyMatch(a -> a.state() == Arrival.State.REFUSED)
                    ? ExitCode.DIFFERENCES
                    : ExitCode.DONE;
        }
        return stay(watch);
    }

    /** Until it is told to stop; a target that fails is tried again at the next look. */
    private int stay(Watch watch) {
        console.problem("watching, a look every " + every + " s; Ctrl-C ends it");
        while (true) {
            try {
                List<Arrival> news = watch.once().stream()
                        .filter(a -> a.state() != Arrival.State.GROWING)
                        .toList();
                if (!news.isEmpty()) {
                    show(news);
                    console.out().flush();
                }
                for (int i = 0; i < every * 10; i++) {
                    console.stop().check();
                    Thread.sleep(100);
                }
            } catch (PlaceException e) {
                console.problem("ferry: " + e.getMessage());
                pause();
            } catch (StoppedException e) {
                return ExitCode.DONE;
            } catch (InterruptedException e) {
                Thread.currentThread().interrupt();
                return ExitCode.DONE;
            }
        }
    }

    private void pause() {
        try {
            Thread.sleep(every * 1000L);
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
    }

    private void show(List<Arrival> arrivals) {
        if (json.isOn()) {
            arrivals.forEach(a -> console.json(json(a)));
            return;
        }
        if (arrivals.isEmpty()) {
            console.line("No file.");
            return;
        }
        TextTable table = new TextTable()
                .left("file")
                .right("rows")
                .left("what became of it")
                .left("when");
        for (Arrival arrival : arrivals) {
            table.row(
                    arrival.file(),
                    arrival.state() == Arrival.State.TAKEN || arrival.state() == Arrival.State.KNOWN
                            ? Amounts.count(arrival.rows())
                            : "–",
                    state(arrival),
                    arrival.at().truncatedTo(ChronoUnit.SECONDS).toString());
        }
        table.lines(console.style()).forEach(console::line);
        new Report(console)
                .notes(
                        "Why",
                        arrivals.stream()
                                .filter(a -> !a.why().isEmpty())
                                .map(a -> a.file() + ": " + a.why())
                                .toList());
    }

    private String state(Arrival arrival) {
        return switch (arrival.state()) {
            case TAKEN -> console.style().good("taken");
            case REFUSED -> console.style().bad("refused");
            case KNOWN -> "known, not taken twice";
            case GROWING -> "not whole yet";
        };
    }

    private static ObjectNode json(Arrival arrival) {
        return JsonNodeFactory.instance
                .objectNode()
                .put("file", arrival.file())
                .put("state", arrival.state().name().toLowerCase(Locale.ROOT))
                .put("rows", arrival.rows())
                .put("sha256", arrival.content())
                .put("at", arrival.at().toString())
                .put("why", arrival.why());
    }
}
