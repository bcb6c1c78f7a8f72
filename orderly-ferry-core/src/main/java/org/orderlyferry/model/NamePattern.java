package org.orderlyferry.model;

import java.util.regex.Pattern;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.apiguardian.api.API;

/** Names of a kind: a text in which {@code *} stands for any characters, and all else for itself. Immutable. */
@API(status = API.Status.INTERNAL)
public final class NamePattern {

    private final String text;
    private final Pattern compiled;

    private NamePattern(String text, int flags) {
        this.text = text;
        this.compiled = Pattern.compile(
                Stream.of(text.split("\\*", -1)).map(Pattern::quote).collect(Collectors.joining(".*")),
                flags | Pattern.DOTALL);
    }

    /** Names just like this text. */
    public static NamePattern of(String text) {
        return new NamePattern(text, 0);
    }

    /** The same, whether letters are small or not. */
    public NamePattern inAnyCase() {
        return new NamePattern(text, Pattern.CASE_INSENSITIVE | Pattern.UNICODE_CASE);
    }

    /** Whether it is one name, and stands for no others. */
    public boolean isOne() {
        return text.indexOf('*') < 0;
    }

    /** Whether a name is one of them. */
    public boolean matches(String name) {
        return compiled.matcher(name).matches();
    }
}
