package org.orderlyferry.cli;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.concurrent.Callable;
import org.orderlyferry.cli.report.ReportForm;
import org.orderlyferry.cli.report.ReportWriter;
import org.orderlyferry.crossing.Crossing;
import org.orderlyferry.crossing.RunRecords;
import org.orderlyferry.io.NewFile;
import org.orderlyferry.problem.PlaceException;
import org.orderlyferry.problem.UsageException;
import org.orderlyferry.report.Conclusion;
import org.orderlyferry.report.TableCounts;
import org.orderlyferry.report.WorkRecord;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

@Command(
        name = "report",
        mixinStandardHelpOptions = true,
        description =
                "Make a report of a run, or of a record that --record wrote: one page to read, to print and to sign. No"
                        + " place is opened; what is shown is what was counted.",
        footer = {"", "Example: ferry report crossing.yaml"})
final class ReportCommand implements Callable<Integer> {

    private static final int MOST_LISTED = 30;

    private final Console console;

    @Parameters(
            index = "0",
            arity = "0..1",
            paramLabel = "RUN",
            description =
                    "A crossing's file or the folder that keeps its runs, for the last of them; a run's folder; or a"
                            + " record. Default: ${DEFAULT-VALUE}.")
    private Path run = Path.of("crossing.yaml");

    @Option(
            names = "--format",
            paramLabel = "html|markdown|json",
            description = "A page; a text for tickets; or the record for machines. The latter two are printed, unless"
                    + " --to is given. Default: by the ending of --to, or html.")
    private ReportForm format;

    @Option(
            names = "--to",
            paramLabel = "FILE",
            description =
                    "Where to write it. Default for a page: report.html in the run's folder, or beside the record.")
    private Path to;

    @Option(names = "--overwrite", description = "Replace the file that --to names, if it is there.")
    private boolean overwrite;

    @Option(names = "--open", description = "Show the page in the browser, where there is one.")
    private boolean open;

    @Option(
            names = "--all",
            description = "List every table. Default: where there are more than " + MOST_LISTED
                    + ", only those that a person must look at.")
    private boolean all;

    ReportCommand(Console console) {
        this.console = console;
    }

    @Override
    public Integer call() {
        ReportForm form = form();
        if (to != null && Files.exists(to) && !overwrite) {
            throw new UsageException(to + " is there already; --overwrite replaces it");
        }
        if (open && form != ReportForm.HTML) {
            throw new UsageException("--open is for a page");
        }
        Path found = found();
        boolean isRun = Files.isDirectory(found);
        WorkRecord work = isRun ? RunRecords.of(found) : WorkRecord.read(found);
        String text = ReportWriter.write(work, form, Instant.now());
        Conclusion conclusion = work.conclusion();
        int code = conclusion.mark() == Conclusion.Mark.WRONG ? ExitCode.DIFFERENCES : ExitCode.DONE;
        if (to == null && form != ReportForm.HTML) {
            console.out().print(text);
            return code;
        }
        Path file = Optional.ofNullable(to).orElseGet(() -> isRun ? found.resolve("report.html") : ownEnding(found));
        write(file, text);
        show(work, conclusion);
        console.line("The report is in " + file + ".");
        if (open && !Browser.show(file)) {
            console.line("There is no browser here to show it.");
        }
        return code;
    }

    private ReportForm form() {
        if (format != null) {
            return format;
        }
        String name = to == null ? "" : to.toString().toLowerCase(Locale.ROOT);
        if (name.endsWith(".md")) {
            return ReportForm.MARKDOWN;
        }
        return name.endsWith(".json") ? ReportForm.JSON : ReportForm.HTML;
    }

    /** A run's folder, or a record's file. */
    private Path found() {
        String name = run.toString();
        if (Files.isDirectory(run)) {
            return RunRecords.isRun(run) ? run : RunRecords.last(run);
        }
        return name.endsWith(".yaml") || name.endsWith(".yml")
                ? RunRecords.last(Crossing.read(run).keep())
                : run;
    }

    /** Beside the record, by its name. */
    private static Path ownEnding(Path record) {
        String name = String.valueOf(record.getFileName());
        String bare = name.endsWith(".json") ? name.substring(0, name.length() - ".json".length()) : name;
        return record.resolveSibling(bare + ".html");
    }

    private static void write(Path file, String text) {
        try {
            NewFile.whole(file, text.getBytes(StandardCharsets.UTF_8));
        } catch (IOException e) {
            throw new PlaceException(file.toString(), "can't be written: " + e.getMessage(), e);
        }
    }

    private void show(WorkRecord work, Conclusion conclusion) {
        Style style = console.style();
        String line =
                switch (conclusion.mark()) {
                    case PROVED -> style.good(conclusion.text());
                    case DONE -> style.warning(conclusion.text());
                    case WRONG -> style.bad(conclusion.text());
                };
        console.line(line);
        console.line("  from  " + work.source().address());
        console.line("  to    " + work.target().address());
        console.line("");
        List<TableCounts> tables = work.tables();
        boolean fold = !all && tables.size() > MOST_LISTED;
        List<TableCounts> listed =
                tables.stream().filter(t -> !fold || t.needsAPerson()).toList();
        if (!listed.isEmpty()) {
            CountsView.of(listed).lines(style).forEach(console::line);
        }
        long folded = tables.size() - listed.size();
        if (folded > 0) {
            String them = Amounts.count(folded, "table");
            console.line(style.faint("  "
                    + (listed.isEmpty() ? "all " + them + " add up" : "and " + them + " that add up")
                    + "; --all lists them"));
        }
        tables.forEach(t -> t.wrong().forEach(w -> console.line(style.bad(t.table() + ": " + w))));
        console.line("");
    }
}
