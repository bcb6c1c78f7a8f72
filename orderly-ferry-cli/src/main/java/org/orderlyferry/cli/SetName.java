package org.orderlyferry.cli;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Locale;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import org.orderlyferry.format.FileFormat;
import org.orderlyferry.format.FileFormats;
import org.orderlyferry.problem.UsageException;

/** What a name says about whether an export set, which is a folder, or a file of some format is meant. */
final class SetName {

    private static final Pattern ENDING = Pattern.compile("(?i).*\\.([a-z][a-z0-9]{1,7})");
    /** A folder may well end so, and a set in one file does. */
    private static final List<String> OF_SETS = List.of("zip", "gz", "zst", "tar", "bag", "set", "d");

    private SetName() {}

    /**
     * Sees to it that a name is a set's.
     *
     * @throws UsageException if it ends as a file's does, or is what stands for standard output elsewhere: a folder of that name is not what
     *     anybody meant
     */
    static void mustBeOfSet(Path set) {
        if (set.toString().equals("-")) {
            throw new UsageException("a set isn't written to standard output; ./- is a folder of that name");
        }
        Matcher matcher = ENDING.matcher(
                set.getFileName() == null ? "" : set.getFileName().toString());
        if (Files.isDirectory(set) || !matcher.matches()) {
            return;
        }
        String ending = matcher.group(1).toLowerCase(Locale.ROOT);
        if (!OF_SETS.contains(ending)) {
            FileFormats.elsewhere("." + ending).ifPresent(told -> {
                throw new UsageException(set + ": " + told);
            });
            throw new UsageException(set + " ends as a file does, and there is no way to write "
                    + (FileFormats.ofEnding(ending).isPresent() ? "a set into one" : "files of the kind ." + ending)
                    + "; an export set is a folder, or ends in .zip, .tar.gz or .tar.zst. ferry convert writes files that end in "
                    + FileFormats.all().stream()
                            .map(FileFormat::endings)
                            .flatMap(List::stream)
                            .map(e -> "." + e)
                            .sorted()
                            .collect(Collectors.joining(", ")));
        }
    }
}
