package org.orderlyferry.crossing;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.stream.Collectors;
import org.orderlyferry.problem.MalformedFileException;

/** Takes typed values out of one mapping of a file, and refuses whatever it doesn't know, with its place. */
final class YamlReading {

    private final String file;
    private final YamlValue.Mapping mapping;
    private final List<String> known = new ArrayList<>();

    YamlReading(String file, YamlValue value, String what) {
        this.file = file;
        if (!(value instanceof YamlValue.Mapping m)) {
            throw YamlTree.at(file, value.line(), value.column(), what + " is a mapping of keys to values");
        }
        this.mapping = m;
    }

    MalformedFileException wrong(YamlValue at, String why) {
        return YamlTree.at(file, at.line(), at.column(), why);
    }

    YamlValue.Mapping mapping() {
        return mapping;
    }

    /** The value of a key; empty where it isn't there or says nothing. */
    Optional<YamlValue> value(String key) {
        known.add(key);
        YamlValue.Entry entry = mapping.entries().get(key);
        boolean nothing = entry == null
                || entry.value() instanceof YamlValue.Scalar s
                        && (s.nothing() || s.text().isEmpty());
        return nothing ? Optional.empty() : Optional.of(entry.value());
    }

    Optional<String> text(String key) {
        return value(key).map(v -> {
            if (v instanceof YamlValue.Scalar scalar) {
                return scalar.text();
            }
            throw wrong(v, key + " is a text");
        });
    }

    String needed(String key) {
        return text(key)
                .orElseThrow(() ->
                        YamlTree.at(file, mapping.line(), mapping.column(), "the key " + key + " is missing here"));
    }

    long number(String key, long otherwise, long least) {
        Optional<YamlValue> value = value(key);
        if (value.isEmpty()) {
            return otherwise;
        }
        String text = text(key).orElseThrow().replace("_", "");
        try {
            long number = Long.parseLong(text);
            if (number >= least && text.chars().allMatch(c -> c < 128)) {
                return number;
            }
        } catch (NumberFormatException e) {
            // told below, as one that is too small is
        }
        throw wrong(value.get(), key + " is a whole number from " + least + " on, not " + text);
    }

    boolean truth(String key, boolean otherwise) {
        return word(key, List.of("true", "false")).map(Boolean::parseBoolean).orElse(otherwise);
    }

    /** One of an enum's names, in lower case with hyphens. */
    <E extends Enum<E>> E choice(String key, Class<E> type, E otherwise) {
        List<String> words =
                Arrays.stream(type.getEnumConstants()).map(YamlReading::word).toList();
        return word(key, words)
                .map(w -> type.getEnumConstants()[words.indexOf(w)])
                .orElse(otherwise);
    }

    /** How a file writes an enum's name. */
    static String word(Enum<?> value) {
        return value.name().toLowerCase(Locale.ROOT).replace('_', '-');
    }

    Optional<String> word(String key, List<String> words) {
        // where a word is null, it is that word
        boolean isNull = words.contains("null")
                && mapping.entries().get(key) != null
                && mapping.entries().get(key).value() instanceof YamlValue.Scalar s
                && s.nothing()
                && "null".equals(s.text());
        Optional<String> text = text(key).or(() -> isNull ? Optional.of("null") : Optional.empty());
        text.filter(t -> !words.contains(t)).ifPresent(t -> {
            throw wrong(
                    mapping.entries().get(key).value(),
                    key + " is one of " + String.join(", ", words) + ", not " + t + nearest(t, words));
        });
        return text;
    }

    List<YamlValue> list(String key) {
        return value(key)
                .map(v -> {
                    if (v instanceof YamlValue.Sequence sequence) {
                        return sequence.values();
                    }
                    throw wrong(v, key + " is a list");
                })
                .orElse(List.of());
    }

    List<String> texts(String key) {
        return list(key).stream()
                .map(v -> {
                    if (v instanceof YamlValue.Scalar s && !s.nothing()) {
                        return s.text();
                    }
                    throw wrong(v, key + " is a list of texts");
                })
                .toList();
    }

    /** Refuses keys that nobody has asked for. */
    void nothingElse() {
        for (YamlValue.Entry entry : mapping.entries().values()) {
            if (!known.contains(entry.key())) {
                throw YamlTree.at(
                        file,
                        entry.line(),
                        entry.column(),
                        "there is no key " + entry.key() + " here" + nearest(entry.key(), known)
                                + "; the keys are "
                                + known.stream().distinct().collect(Collectors.joining(", ")));
            }
        }
    }

    private static String nearest(String given, List<String> words) {
        return Nearest.of(given, words).map(w -> "; was " + w + " meant?").orElse("");
    }
}
