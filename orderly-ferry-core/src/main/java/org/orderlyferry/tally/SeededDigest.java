package org.orderlyferry.tally;

import java.util.HexFormat;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.apiguardian.api.API;

/**
 * A digest that a place's own server has taken.
 *
 * @param seed by which; digests of other seeds have nothing to do with each other
 * @param digest of all records
 */
@API(status = API.Status.INTERNAL)
public record SeededDigest(long seed, Digest digest) {

    private static final String SERVER = "server:";

    /** The form in which servers are asked, another one with each change of what they reckon. */
    private static final String FORM = SERVER + "2:";

    private static final Pattern TEXT = Pattern.compile(FORM + "([0-9a-f]{16}):([0-9a-f]{32})");

    /** Reads what {@link #toString()} writes; empty for a digest of values. */
    public static Optional<SeededDigest> parse(String text) {
        Matcher matcher = TEXT.matcher(text);
        return matcher.matches()
                ? Optional.of(new SeededDigest(
                        HexFormat.fromHexDigitsToLong(matcher.group(1)), Digest.parse(matcher.group(2))))
                : Optional.empty();
    }

    /** Whether a text is such a digest, in a form in which servers are no longer asked. */
    public static boolean isOfAnotherForm(String text) {
        return text.startsWith(SERVER) && parse(text).isEmpty();
    }

    /** Told apart from a digest of values by how it begins. */
    @Override
    public String toString() {
        return FORM + HexFormat.of().toHexDigits(seed) + ":" + digest;
    }
}
