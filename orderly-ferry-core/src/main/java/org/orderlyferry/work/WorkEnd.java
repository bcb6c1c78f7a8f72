package org.orderlyferry.work;

import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import java.util.TreeSet;
import org.jspecify.annotations.NullMarked;
import org.orderlyferry.format.FileSettings;
import org.orderlyferry.io.Compression;
import org.orderlyferry.io.WrittenPath;
import org.orderlyferry.place.OpenOptions;
import org.orderlyferry.place.OutOfRange;
import org.orderlyferry.place.Secrets;
import org.orderlyferry.problem.UsageException;

/**
 * One end of the work: a place's address and how it is opened. A plain value; secrets stay what they are in the address,
 * such as {@code ${env:NAME}}.
 *
 * @param address a path or a URL
 * @param options how the place is opened, by the names below; those that aren't given are as {@link OpenOptions} has them
 * @param files how files are written, by the names of their settings
 */
@NullMarked
public record WorkEnd(String address, Map<String, String> options, Map<String, String> files) {

    /** A file's format, or that of a set's files. */
    public static final String FORMAT = "format";

    /** How a set's files are compressed. */
    public static final String COMPRESSION = "compression";

    /** A CSVW description to read a file by. */
    public static final String DEFINITIONS = "definitions";

    /** What is done with values that no other system could hold. */
    public static final String OUT_OF_RANGE = "outOfRange";

    /** Whether a target's database, or its schemas, are made. */
    public static final String MAKE_MISSING = "makeMissing";

    /** Whether texts of definitions that can't be read are sent as they are. */
    public static final String TRUST_DEFINITIONS = "trustDefinitions";

    private static final TreeSet<String> NAMES = new TreeSet<>(
            java.util.List.of(FORMAT, COMPRESSION, DEFINITIONS, OUT_OF_RANGE, MAKE_MISSING, TRUST_DEFINITIONS));

    public WorkEnd {
        options = Map.copyOf(options);
        files = Map.copyOf(files);
        for (String name : options.keySet()) {
            if (!NAMES.contains(name)) {
                throw new UsageException("there is no option " + name + " of a place; there are " + NAMES);
            }
        }
    }

    /** An end that is opened as its address says. */
    public static WorkEnd of(String address) {
        return new WorkEnd(address, Map.of(), Map.of());
    }

    /** The same with one option more. */
    public WorkEnd with(String option, String value) {
        Map<String, String> more = new TreeMap<>(options);
        more.put(option, value);
        return new WorkEnd(address, more, files);
    }

    Optional<String> option(String name) {
        return Optional.ofNullable(options.get(name));
    }

    Compression compression() {
        return option(COMPRESSION).map(Compression::valueOf).orElse(Compression.NONE);
    }

    FileSettings fileSettings() {
        return new FileSettings(files);
    }

    /** How the place is opened. */
    OpenOptions openOptions(Secrets secrets) {
        OpenOptions.Builder opened = OpenOptions.builder()
                .secrets(secrets)
                .files(fileSettings())
                .makeMissing(Boolean.parseBoolean(option(MAKE_MISSING).orElse("false")))
                .trustDefinitions(Boolean.parseBoolean(option(TRUST_DEFINITIONS).orElse("false")))
                .outOfRange(option(OUT_OF_RANGE).map(OutOfRange::valueOf).orElse(OutOfRange.REFUSE));
        option(FORMAT).ifPresent(opened::format);
        option(DEFINITIONS).map(WrittenPath::read).ifPresent(opened::definitions);
        return opened.build();
    }
}
