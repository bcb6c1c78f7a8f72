package org.orderlyferry.databases.script;

import java.util.List;
import org.orderlyferry.databases.dialect.Scripting;

/** How texts are compared, as a script says it: of a column, or of a whole table. */
final class WrittenCollation {

    private WrittenCollation() {}

    /** Reads the name behind COLLATE, in the words that the system's own catalogue has for it; empty for what is the default. */
    static String read(Tokens tokens, Scripting scripting) {
        tokens.skip("=");
        int from = tokens.start();
        List<String> path = tokens.path();
        return scripting.collation(
                path, tokens.text(from, tokens.end(tokens.at())).strip());
    }

    /** Reads the name of a character set of which no more is said. */
    static String ofSet(Tokens tokens, Scripting scripting) {
        tokens.skip("=");
        return scripting.collationOfSet(tokens.next().text());
    }

    /** Goes past the words in front of a character set's name, if they stand here. */
    static boolean isSet(Tokens tokens) {
        if (tokens.peek().is("CHARACTER") && tokens.isNextWord("SET")) {
            tokens.next();
            tokens.next();
            return true;
        }
        return tokens.skip("CHARSET");
    }

    /**
     * What a table says of those of its texts that say nothing themselves.
     *
     * @param tokens where its columns begin; goes nowhere
     */
    static String ofTable(Tokens tokens, Scripting scripting) {
        int here = tokens.at();
        tokens.goTo(tokens.closing() + 1);
        String collation = "";
        String ofSet = "";
        while (tokens.hasMore()) {
            if (tokens.skip("COLLATE")) {
                collation = read(tokens, scripting);
            } else if (isSet(tokens)) {
                ofSet = ofSet(tokens, scripting);
            } else {
                tokens.next();
            }
        }
        tokens.goTo(here);
        return collation.isEmpty() ? ofSet : collation;
    }
}
