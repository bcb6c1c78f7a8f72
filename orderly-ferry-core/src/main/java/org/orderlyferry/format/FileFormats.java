package org.orderlyferry.format;

import java.io.IOException;
import java.io.InputStream;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.ServiceLoader;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import org.apiguardian.api.API;
import org.orderlyferry.problem.PlaceException;
import org.orderlyferry.problem.UsageException;

/** All kinds of files that are at hand. */
@API(status = API.Status.INTERNAL)
public final class FileFormats {

    private static final int HEAD = 64 * 1024;

    /** With that of a compression behind it. */
    private static final Pattern ENDING = Pattern.compile("\\.([a-z]+)(?:\\.(?:gz|zst))?$");

    private FileFormats() {}

    /** All of them, by name. */
    public static List<FileFormat> all() {
        List<FileFormat> formats = new ArrayList<>();
        ServiceLoader.load(FileFormat.class).forEach(formats::add);
        formats.sort(Comparator.comparing(FileFormat::name));
        return formats;
    }

    /**
     * The kind with a name or an ending that a person gave.
     *
     * @throws UsageException if there is none; the message has those that there are
     */
    public static FileFormat named(String nameOrEnding) {
        String wanted = nameOrEnding.toLowerCase(Locale.ROOT);
        return all().stream()
                .filter(f -> f.name().toLowerCase(Locale.ROOT).equals(wanted)
                        || f.endings().contains(wanted))
                .findFirst()
                .orElseThrow(() -> new UsageException(elsewhere("." + wanted)
                        .orElseGet(() -> "there is no format " + nameOrEnding + "; there are "
                                + all().stream().map(f -> f.endings().get(0)).collect(Collectors.joining(", ")))));
    }

    /**
     * What a person is told of a file whose kind isn't at hand, though there is a way to it.
     *
     * @return a sentence without its point; empty for kinds that are at hand, and for any other
     */
    public static Optional<String> elsewhere(String fileName) {
        Matcher matcher = ENDING.matcher(fileName.toLowerCase(Locale.ROOT));
        if (!matcher.find() || ofEnding(matcher.group(1)).isPresent()) {
            return Optional.empty();
        }
        String ending = matcher.group(1);
        return switch (ending) {
            case "parquet", "avro" ->
                Optional.of("files of the kind ." + ending
                        + " are read and written by the module orderly-ferry-columnar, which isn't"
                        + " among the jars here: docs/files.md tells where they go");
            case "arrow", "feather" ->
                Optional.of(
                        "Arrow's files are neither read nor written: its own library reaches into Java's memory in a way that"
                                + " each program would have to allow; most programs that write them write Parquet as well");
            default -> Optional.empty();
        };
    }

    /** The kind whose files' names end so. */
    public static Optional<FileFormat> ofEnding(String ending) {
        return all().stream().filter(f -> f.endings().contains(ending)).findFirst();
    }

    /**
     * The kind of a file: by its first bytes where those leave no doubt, else by its ending. Delimited text can't be
     * told from any other text by its bytes.
     */
    public static Optional<FileFormat> of(FileSource file) {
        byte[] head = head(file);
        Optional<FileFormat> byEnding = ofEnding(file.ending());
        if (byEnding.isPresent() && (head.length == 0 || byEnding.get().looksLike(head))) {
            return byEnding;
        }
        Optional<FileFormat> byContent =
                all().stream().filter(f -> f.looksLike(head)).findFirst();
        return byContent.isPresent() ? byContent : byEnding;
    }

    private static byte[] head(FileSource file) {
        try (InputStream in = file.open()) {
            return in.readNBytes(HEAD);
        } catch (IOException e) {
            throw new PlaceException(file.shown(), "can't be read: " + e.getMessage(), e);
        }
    }
}
