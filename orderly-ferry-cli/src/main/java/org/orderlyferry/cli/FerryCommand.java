package org.orderlyferry.cli;

import java.nio.file.Path;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Optional;
import java.util.ServiceLoader;
import java.util.function.Function;
import java.util.stream.Stream;
import org.orderlyferry.place.PlaceAddress;
import org.orderlyferry.problem.BadRecordException;
import org.orderlyferry.problem.BadValueException;
import org.orderlyferry.problem.FerryException;
import org.orderlyferry.problem.UsageException;
import picocli.CommandLine;
import picocli.CommandLine.Command;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Model.OptionSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.ParameterException;
import picocli.CommandLine.Spec;

/** The command that all others stand under. */
@Command(
        name = "ferry",
        mixinStandardHelpOptions = true,
        version = "Orderly Ferry 0.1.0",
        description = "Moves records between database systems by way of export files, and proves that all arrived.",
        synopsisSubcommandLabel = "COMMAND",
        footer = {
            "",
            "A PLACE is a database file (H2, SQLite), a JDBC URL (jdbc:h2:, jdbc:sqlite:, jdbc:postgresql:, jdbc:mariadb:),",
            "an export set (a folder), a file of any format that docs/formats.md names, or several",
            "files of one table by a pattern in quotes: 'arrivals/loan-*.csv'.",
            "Where a URL needs a secret, write $${env:NAME}, $${file:path} or $${ask}, in single quotes.",
            "",
            "Exit codes: 0 done; 1 done, with differences; 2 wrong usage; 3 a place failed.",
            "",
            "Example: ferry look herbarium.mv.db"
        })
public final class FerryCommand implements Runnable {

    /** Picocli lays out nothing narrower; a narrower terminal breaks the lines itself. */
    private static final int NARROWEST_HELP = 55;

    private static final int WIDEST_HELP = 120;

    private static final Map<String, Function<Console, Object>> COMMANDS = commands();

    @Option(
            names = "--verbose",
            scope = CommandLine.ScopeType.INHERIT,
            description = "Show the whole stack of an error, and what the tool logs.")
    private boolean verbose;

    @Option(
            names = "--color",
            paramLabel = "auto|always|never",
            scope = CommandLine.ScopeType.INHERIT,
            description = "When to use colours. Default: auto, where a terminal shows them.")
    private Colour color = Colour.AUTO;

    @Spec
    private CommandSpec spec;

    private FerryCommand() {}

    private static Map<String, Function<Console, Object>> commands() {
        Map<String, Function<Console, Object>> all = new LinkedHashMap<>();
        all.put("look", LookCommand::new);
        all.put("export", ExportCommand::new);
        all.put("convert", ConvertCommand::new);
        all.put("load", LoadCommand::new);
        all.put("reconcile", ReconcileCommand::new);
        all.put("draft", DraftCommand::new);
        all.put("check", CheckCommand::new);
        all.put("run", RunCommand::new);
        all.put("undo", UndoCommand::new);
        all.put("report", ReportCommand::new);
        all.put("watch", WatchCommand::new);
        return all;
    }

    /** All commands with their options, to be run or described. */
    public static CommandLine line(Console console) {
        return line(new FerryCommand(), console);
    }

    /**
     * The commands that somebody may mean who calls with such arguments: reading what all of them can be told takes longer
     * than the work of some.
     */
    private static CommandLine line(FerryCommand ferry, Console console, String... arguments) {
        CommandLine line = new CommandLine(ferry);
        Function<Console, Object> meant = arguments.length == 0 ? null : COMMANDS.get(arguments[0]);
        if (meant != null) {
            line.addSubcommand(arguments[0], meant.apply(console));
        } else {
            COMMANDS.forEach((name, command) -> line.addSubcommand(name, command.apply(console)));
            ServiceLoader.load(CommandPlugin.class).forEach(plugin -> line.addSubcommand(plugin.command(console)));
        }
        // a path may be in another file system than this machine's
        line.registerConverter(Path.class, FerryCommand::path);
        return line;
    }

    private static Path path(String text) {
        try {
            return PlaceAddress.of(text).path();
        } catch (UsageException e) {
            throw new CommandLine.TypeConversionException(e.getMessage());
        }
    }

    /**
     * Runs one command.
     *
     * @return the exit code
     */
    public static int run(Console given, String... arguments) {
        Console console = new Console(given.out(), given.err(), given.terminal().told(arguments), given.stop());
        // it warns of quotes in values by the names of our fields; what is wrong with a value is told by ourselves
        CommandLine.tracer().setLevel(CommandLine.TraceLevel.OFF);
        FerryCommand ferry = new FerryCommand();
        CommandLine line = line(ferry, console, arguments);
        line.setOut(console.out());
        line.setErr(console.err());
        line.setColorScheme(CommandLine.Help.defaultColorScheme(
                console.style().on() ? CommandLine.Help.Ansi.ON : CommandLine.Help.Ansi.OFF));
        line.setUsageHelpWidth(Math.max(
                NARROWEST_HELP, Math.min(WIDEST_HELP, console.terminal().columns())));
        line.setCaseInsensitiveEnumValuesAllowed(true);
        line.setExecutionExceptionHandler((e, command, result) -> ferry.failed(console, e, command));
        line.setParameterExceptionHandler((e, args) -> wrongUsage(console, e));
        line.setExecutionStrategy(result -> {
            if (ferry.verbose) {
                Logging.verbose();
            }
            return new CommandLine.RunLast().execute(result);
        });
        int code = line.execute(arguments);
        console.out().flush();
        console.err().flush();
        if (console.out().checkError()) {
            console.problem("ferry: what was to be said can't be written: is the disk full, or the pipe closed?");
            return ExitCode.FAILED;
        }
        return code;
    }

    private int failed(Console console, Exception e, CommandLine command) {
        console.out().flush();
        if (e instanceof FerryException failure) {
            console.problem("ferry: " + failure.getMessage());
            // what fails is closed after, which may fail for the same reason
            Stream.of(failure.getSuppressed())
                    .filter(FerryException.class::isInstance)
                    .map(Throwable::getMessage)
                    .filter(message -> !message.equals(failure.getMessage()))
                    .distinct()
                    .forEach(message -> console.problem("ferry: " + message));
            wayOn(failure, command).ifPresent(console.err()::println);
        } else {
            console.problem("ferry: something unexpected happened: " + e + "; --verbose shows where");
        }
        if (verbose) {
            e.printStackTrace(console.err());
        }
        return e instanceof FerryException failure ? ExitCode.of(failure) : ExitCode.FAILED;
    }

    /** How to go on where one record is what stopped the command. */
    private static Optional<String> wayOn(FerryException failure, CommandLine command) {
        if (!(failure instanceof BadValueException || failure instanceof BadRecordException)) {
            return Optional.empty();
        }
        if (command.getCommand() instanceof RunCommand) {
            return Optional.of(
                    "To go on without such records, each kept with its reason: rejects-allowed in the crossing.");
        }
        OptionSpec rejects = command.getCommandSpec().findOption("--rejects");
        return rejects == null || rejects.getValue() != null
                ? Optional.empty()
                : Optional.of("To go on without such records, each kept with its reason: --rejects FILE.");
    }

    private static int wrongUsage(Console console, ParameterException e) {
        CommandLine command = e.getCommandLine();
        console.problem("ferry: " + e.getMessage());
        if (!CommandLine.UnmatchedArgumentException.printSuggestions(e, console.err())) {
            console.err().println("Try '" + command.getCommandSpec().qualifiedName() + " --help'.");
        }
        return ExitCode.USAGE;
    }

    /** Without a command there is nothing to do but to tell which there are. */
    @Override
    public void run() {
        throw new ParameterException(spec.commandLine(), "a command is missing");
    }
}
