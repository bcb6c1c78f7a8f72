package org.orderlyferry.format;

import java.nio.charset.Charset;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import java.util.stream.Collectors;
import org.jspecify.annotations.NullMarked;
import org.orderlyferry.problem.UsageException;

/**
 * What is told about a file's form beside its name: values by the names of {@link Setting}s. Each format reads those that
 * it knows. Immutable.
 *
 * @param values by name
 */
@NullMarked
public record FileSettings(Map<String, String> values) {

    public static final FileSettings NONE = new FileSettings(Map.of());

    /** Those that name another file. */
    private static final Set<String> OF_FILES = Set.of("style-sheet");

    public FileSettings {
        values = Map.copyOf(values);
    }

    /** The same with one setting more, or another value for it. */
    public FileSettings with(String name, String value) {
        Map<String, String> more = new LinkedHashMap<>(values);
        more.put(name, value);
        return new FileSettings(more);
    }

    /** These, and for names that they don't have, the others. */
    public FileSettings or(FileSettings others) {
        Map<String, String> all = new LinkedHashMap<>(others.values);
        all.putAll(values);
        return new FileSettings(all);
    }

    /** Whether another file is named; only a person may do so. */
    public boolean namesFiles() {
        return !namedFiles().isEmpty();
    }

    /** The names of other files by which a file is read or written. */
    public List<String> namedFiles() {
        return OF_FILES.stream().map(values::get).filter(Objects::nonNull).toList();
    }

    /** The same, as far as no other file is named: what comes along with data doesn't say what else is to be read. */
    public FileSettings withoutFiles() {
        Map<String, String> own = new LinkedHashMap<>(values);
        own.keySet().removeAll(OF_FILES);
        return new FileSettings(own);
    }

    /** What is told of a setting. */
    public Optional<String> text(String name) {
        return Optional.ofNullable(values.get(name));
    }

    /** What is told of a setting, or what holds where nothing is. */
    public String text(String name, String otherwise) {
        return values.getOrDefault(name, otherwise);
    }

    /**
     * A count.
     *
     * @throws UsageException if it is none
     */
    public int count(String name, int otherwise) {
        String text = values.get(name);
        if (text == null) {
            return otherwise;
        }
        try {
            int count = Integer.parseInt(text);
            if (count >= 0) {
                return count;
            }
        } catch (NumberFormatException e) {
            // said below
        }
        throw new UsageException("the setting " + name + " is a count, not '" + text + "'");
    }

    /**
     * Yes or no.
     *
     * @throws UsageException if it is neither true nor false
     */
    public boolean flag(String name, boolean otherwise) {
        String text = values.get(name);
        if (text == null) {
            return otherwise;
        }
        if (!text.equals("true") && !text.equals("false")) {
            throw new UsageException("the setting " + name + " is true or false, not '" + text + "'");
        }
        return text.equals("true");
    }

    /**
     * Several words, with {@code |} between them; the empty text among them where nothing stands before or behind one.
     */
    public List<String> words(String name, String otherwise) {
        return List.of(text(name, otherwise).split("\\|", -1));
    }

    /**
     * An encoding.
     *
     * @throws UsageException if there is none of that name
     */
    public Charset encoding(String name, Charset otherwise) {
        String text = values.get(name);
        if (text == null) {
            return otherwise;
        }
        try {
            return Charset.forName(text);
        } catch (IllegalArgumentException e) {
            throw new UsageException("there is no encoding " + text + "; UTF-8, UTF-16 and windows-1252 are some", e);
        }
    }

    /**
     * Sees to it that a format knows all of them.
     *
     * @throws UsageException if it doesn't; the message has those that it knows
     */
    public void mustBeKnown(FileFormat format) {
        Set<String> unknown = new TreeSet<>(values.keySet());
        format.settings().forEach(s -> unknown.remove(s.name()));
        if (!unknown.isEmpty()) {
            throw new UsageException("a file of " + format.name() + " has no setting " + String.join(", ", unknown)
                    + "; it has "
                    + format.settings().stream().map(Setting::name).collect(Collectors.joining(", ")));
        }
    }
}
