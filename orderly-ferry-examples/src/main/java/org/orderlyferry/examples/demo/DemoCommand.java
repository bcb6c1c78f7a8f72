package org.orderlyferry.examples.demo;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.SQLException;
import java.util.List;
import java.util.concurrent.Callable;
import org.orderlyferry.cli.Argument;
import org.orderlyferry.cli.Console;
import org.orderlyferry.cli.FerryCommand;
import org.orderlyferry.documents.simulated.SimulatedStore;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Places;
import org.orderlyferry.place.TargetPlace;
import org.orderlyferry.problem.PlaceException;
import org.orderlyferry.problem.UsageException;
import org.orderlyferry.testkit.herbarium.Herbarium;
import org.orderlyferry.testkit.servers.LocalMaria;
import org.orderlyferry.testkit.servers.LocalPostgres;
import org.orderlyferry.work.Export;
import org.orderlyferry.work.Load;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;

@Command(
        name = "demo",
        mixinStandardHelpOptions = true,
        description =
                "A whole crossing with made-up data: makes the Quillmoor Herbarium's old database (H2), looks at it,"
                        + " exports it, loads the set into a new one (SQLite), and proves that all arrived.",
        footer = {"", "Example: ferry demo --readings 1000000"})
final class DemoCommand implements Callable<Integer> {

    private final Console console;

    @Option(
            names = "--folder",
            paramLabel = "FOLDER",
            description = "Where to put everything; it must not be there yet. Default: ${DEFAULT-VALUE}.")
    private Path folder = Path.of("ferry-demo");

    @Option(
            names = "--specimens",
            paramLabel = "N",
            description = "How many specimens the herbarium has. Default: ${DEFAULT-VALUE}.")
    private int specimens = 1_000;

    @Option(
            names = "--readings",
            paramLabel = "N",
            description = "How many rows its large table has. Default: ${DEFAULT-VALUE}.")
    private long readings = 2_000;

    @Option(names = "--only-source", description = "Make the old database, and stop.")
    private boolean onlySource;

    @Option(
            names = "--servers",
            description =
                    "Start a PostgreSQL and a MariaDB server, and move the herbarium from the one to the other. Their"
                            + " programs are fetched by Maven, once.")
    private boolean servers;

    @Option(
            names = "--night",
            description = "The night of a migration: draft, check, run, killed by itself and gone on with, catch up,"
                    + " reconcile, undo.")
    private boolean night;

    @Option(
            names = "--store",
            description = "Start a simulated store of documents that is reached over HTTP with a key file, and move the"
                    + " herbarium into it; on a terminal it stays until Enter is pressed.")
    private boolean store;

    DemoCommand(Console console) {
        this.console = console;
    }

    @Override
    public Integer call() {
        if (servers && !onlySource && !night && !ServerBinaries.areOnTheClassPath()) {
            return new ServerBinaries(console, folder.resolveSibling("ferry-demo-servers"))
                    .run(List.of(
                            "demo",
                            "--servers",
                            "--folder",
                            folder.toString(),
                            "--specimens",
                            Integer.toString(specimens),
                            "--readings",
                            Long.toString(readings)));
        }
        Path source = folder.resolve("herbarium.mv.db");
        String set = folder.resolve("set").toString();
        String target = folder.resolve("herbarium.sqlite").toString();
        make(source);
        if (onlySource) {
            return 0;
        }
        if (night) {
            return new Night(console, source, folder.resolve("herbarium.sqlite"), folder.resolve("crossing.yaml"))
                    .run();
        }
        if (servers) {
            return betweenServers(source, set);
        }
        if (store) {
            return intoAStore(source, set);
        }
        String[][] steps = {
            {"look", source.toString()},
            {"export", source.toString(), set},
            {"load", set, target},
            {"reconcile", source.toString(), target}
        };
        int worst = run(steps);
        if (worst == 0) {
            console.out().println();
            console.out().println("All of it is in " + folder + ". To see more: ferry look " + target + " specimen");
        }
        return worst;
    }

    private int run(String[]... steps) {
        for (String[] step : steps) {
            console.out().println();
            console.out().println("$ ferry " + Argument.all(List.of(step)));
            console.out().flush();
            int code = FerryCommand.run(console, step);
            if (code != 0) {
                return code;
            }
        }
        return 0;
    }

    private int betweenServers(Path source, String set) {
        console.out().println("Starting PostgreSQL and MariaDB");
        console.out().flush();
        try (LocalPostgres postgres = LocalPostgres.start();
                LocalMaria maria = LocalMaria.start()) {
            String from = postgres.url("postgres");
            String to = maria.url("herbarium");
            Path origin = folder.resolve("origin");
            try (Place old = Places.open(source.toString());
                    TargetPlace target = Places.openTarget(from)) {
                Export.from(old).to(origin);
                try (Place files = Places.open(origin.toString())) {
                    Load.from(files).into(target);
                }
            }
            return run(
                    new String[] {"look", from},
                    new String[] {"export", from, set},
                    new String[] {"load", set, to, "--make-missing"},
                    new String[] {"reconcile", from, to});
        }
    }

    private int intoAStore(Path source, String set) {
        try (SimulatedStore simulated = SimulatedStore.start()) {
            Path key = folder.resolve("key.json");
            simulated.makeKey("herbarium", key);
            String target = simulated.url("herbarium", key);
            console.out().println("Started a store of documents, simulated; its key is in " + key);
            int worst = run(
                    new String[] {"export", source.toString(), set},
                    new String[] {"load", set, target},
                    new String[] {"look", target},
                    new String[] {"reconcile", source.toString(), target});
            if (worst == 0 && System.console() != null) {
                console.out().println();
                console.out().println("The store is there until you press Enter.");
                console.out().flush();
                System.console().readLine();
            }
            return worst;
        }
    }

    private void make(Path source) {
        if (Files.exists(folder)) {
            throw new UsageException(folder + " is there already; remove it, or give another with --folder");
        }
        try {
            Files.createDirectories(folder);
            console.out().println("Making the herbarium's old database, " + source);
            console.out().flush();
            new Herbarium()
                    .specimens(specimens)
                    .readings(readings)
                    .commonDates(servers)
                    .create(source);
        } catch (IOException | SQLException e) {
            throw new PlaceException(source.toString(), "can't be made: " + e.getMessage(), e);
        }
    }
}
