package org.orderlyferry.databases.sql;

import java.util.Map;
import java.util.Optional;
import java.util.Set;

/** The operators of the closed language that stand between two things. */
final class Operators {

    private static final String IN_ZONE = "AT TIME ZONE";

    /** What binds more tightly than any arithmetic. */
    private static final int TIGHT = 9;

    /** How tightly they bind, but for {@link #JOINING} where those come first. */
    private static final Map<String, Integer> STRENGTHS = Map.ofEntries(
            Map.entry("OR", 1),
            Map.entry("XOR", 2),
            Map.entry("AND", 3),
            Map.entry("=", 5),
            Map.entry("<>", 5),
            Map.entry("<", 5),
            Map.entry("<=", 5),
            Map.entry(">", 5),
            Map.entry(">=", 5),
            Map.entry("<=>", 5),
            Map.entry("IS DISTINCT FROM", 5),
            Map.entry("IS NOT DISTINCT FROM", 5),
            Map.entry("||", 6),
            Map.entry("->", 6),
            Map.entry("->>", 6),
            Map.entry("~", 6),
            Map.entry("~*", 6),
            Map.entry("!~", 6),
            Map.entry("!~*", 6),
            Map.entry("@>", 6),
            Map.entry("<@", 6),
            Map.entry("&&", 6),
            Map.entry("&", 6),
            Map.entry("|", 6),
            Map.entry("<<", 6),
            Map.entry(">>", 6),
            Map.entry("+", 7),
            Map.entry("-", 7),
            Map.entry("*", 8),
            Map.entry("/", 8),
            Map.entry("%", 8),
            Map.entry(IN_ZONE, TIGHT));

    private static final Set<String> JOINING = Set.of("||", "->", "->>");

    /** Other ways to write some of them. */
    private static final Map<String, String> SAME = Map.of("!=", "<>", "==", "=");

    private Operators() {}

    /** How tightly an operator binds in a system: the more, the sooner. */
    static int strength(String operator, Spelling spelling) {
        return spelling.joinsFirst() && JOINING.contains(operator) ? TIGHT : STRENGTHS.get(operator);
    }

    /** The operator that stands here. */
    static Optional<String> at(TokenCursor in, Spelling spelling) {
        SqlToken token = in.peek();
        String text = token.kind() == SqlToken.Kind.WORD ? token.upper() : token.text();
        if (token.is("IS")) {
            boolean not = in.peek(1).is("NOT");
            boolean distinct =
                    in.peek(not ? 2 : 1).is("DISTINCT") && in.peek(not ? 3 : 2).is("FROM");
            return distinct ? Optional.of(not ? "IS NOT DISTINCT FROM" : "IS DISTINCT FROM") : Optional.empty();
        }
        if (token.is("AT")) {
            // where it is the function timezone in other words
            boolean zone = in.peek(1).is("TIME") && in.peek(2).is("ZONE") && spelling.isPure("TIMEZONE");
            return zone ? Optional.of(IN_ZONE) : Optional.empty();
        }
        if (token.kind() != SqlToken.Kind.SYMBOL && token.kind() != SqlToken.Kind.WORD
                || text.equals("||") && !spelling.barsJoin()
                || text.equals("XOR") && spelling.barsJoin()) {
            return Optional.empty();
        }
        String same = SAME.getOrDefault(text, text);
        return STRENGTHS.containsKey(same) ? Optional.of(same) : Optional.empty();
    }
}
