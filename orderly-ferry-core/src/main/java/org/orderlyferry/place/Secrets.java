package org.orderlyferry.place;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Map;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import java.util.function.Function;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.orderlyferry.problem.UsageException;

/**
 * Where secrets come from: {@code ${env:NAME}} from the environment, {@code ${file:path}} from a file's first line,
 * {@code ${ask}} from the person at the terminal.
 */
public final class Secrets {

    private static final Pattern MARK = Pattern.compile("\\$\\{(ask|env:([^}]+)|file:([^}]+))}");

    /** Secrets of fewer characters are none to speak of; a message that is chewed up helps nobody. */
    private static final int SHORT = 5;

    private final Function<String, String> environment;
    private final Function<String, String> asking;
    private final Set<String> filledIn = ConcurrentHashMap.newKeySet();
    private final Map<String, String> asked = new ConcurrentHashMap<>();

    /**
     * Secrets from chosen sources.
     *
     * @param environment gives a variable's value, or null
     * @param asking asks a person, given the prompt; gives null where nobody can be asked
     */
    public Secrets(Function<String, String> environment, Function<String, String> asking) {
        this.environment = environment;
        this.asking = asking;
    }

    /** Secrets from this process's environment and from files; nobody is asked. */
    public static Secrets unattended() {
        return new Secrets(System::getenv, prompt -> null);
    }

    /** Whoever was asked for an address's password isn't asked again for the same address. */
    String fillIn(String text) {
        return text.contains("${ask}") ? asked.computeIfAbsent(text, this::filled) : filled(text);
    }

    private String filled(String text) {
        Matcher matcher = MARK.matcher(text);
        StringBuilder filled = new StringBuilder();
        while (matcher.find()) {
            String secret = secret(matcher);
            if (!secret.isEmpty()) {
                filledIn.add(secret);
            }
            matcher.appendReplacement(filled, Matcher.quoteReplacement(secret));
        }
        return matcher.appendTail(filled).toString();
    }

    /** Takes all secrets that were filled in so far out of a text: drivers put whole URLs into their messages. */
    public String strikeOut(String text) {
        String struck = text;
        for (String secret : filledIn) {
            // a short one is part of many a word, and is struck out only where it stands alone
            String there = Pattern.quote(secret);
            String alone = secret.length() < SHORT ? "(?<![\\p{L}\\p{N}])" + there + "(?![\\p{L}\\p{N}])" : there;
            struck = struck.replaceAll(alone, "***");
        }
        return struck;
    }

    private String secret(Matcher mark) {
        if (mark.group(2) != null) {
            return given(environment.apply(mark.group(2)), "the environment has no variable " + mark.group(2));
        }
        if (mark.group(3) != null) {
            Path file = Path.of(mark.group(3));
            try {
                return Files.readString(file).lines().findFirst().orElse("");
            } catch (IOException e) {
                throw new UsageException("the secret's file " + file + " can't be read: " + e.getMessage(), e);
            }
        }
        return given(
                asking.apply("Password: "),
                "there is no terminal to ask for the password at; use ${env:NAME} or ${file:path} in the address");
    }

    private static String given(String value, String otherwise) {
        if (value == null) {
            throw new UsageException(otherwise);
        }
        return value;
    }
}
