package org.orderlyferry.databases.script;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.orderlyferry.databases.dialect.Scripting;
import org.orderlyferry.databases.sql.DomainText;
import org.orderlyferry.databases.sql.SqlToken;
import org.orderlyferry.model.Enumeration;

/**
 * The types that a script makes: enumerations, and domains (ISO/IEC 9075-2, 4.13), which are other types with rules of their
 * own and are written out where a column has one. Not safe for use by several threads.
 */
final class ScriptTypes {

    /** What a domain says is read again for each of its columns, which may be many. */
    private static final int LONGEST = 2_000;

    private final Scripting scripting;
    private final Map<String, Enumeration> enumerations = new LinkedHashMap<>();
    private final Map<String, Domain> domains = new LinkedHashMap<>();

    /**
     * Another type's name.
     *
     * @param rules what stands behind it: a default, that it can't be null, checks of VALUE
     */
    private record Domain(String type, String rules) {}

    ScriptTypes(Scripting scripting) {
        this.scripting = scripting;
    }

    /**
     * Takes what stands behind CREATE, if it makes a type that can be taken.
     *
     * @return whether it does; nothing was read of it if not
     */
    boolean create(Tokens tokens) {
        int at = tokens.at();
        if (tokens.skip("TYPE")) {
            type(tokens);
            return true;
        }
        if (tokens.skip("DOMAIN") && domain(tokens)) {
            return true;
        }
        tokens.goTo(at);
        return false;
    }

    /** An enumeration, or another name for a type. */
    private void type(Tokens tokens) {
        if (!tokens.isName()) {
            return;
        }
        String name = last(tokens.path());
        if (tokens.skip("FROM")) {
            domain(name, tokens);
        } else if (tokens.skip("AS") && tokens.skip("ENUM") && tokens.skip("(")) {
            List<String> values = new ArrayList<>();
            while (tokens.hasMore() && !tokens.skip(")")) {
                SqlToken token = tokens.next();
                if (token.kind() == SqlToken.Kind.STRING) {
                    values.add(token.text());
                }
            }
            enumerations.put(name, new Enumeration(name, values));
        }
    }

    private boolean domain(Tokens tokens) {
        tokens.skip("IF");
        tokens.skip("NOT");
        tokens.skip("EXISTS");
        if (!tokens.isName()) {
            return false;
        }
        String name = last(tokens.path());
        tokens.skip("AS");
        return domain(name, tokens);
    }

    private boolean domain(String name, Tokens tokens) {
        int from = tokens.start();
        int to = from;
        while (tokens.hasMore() && !(tokens.isWord() && ScriptColumns.COLUMN_END.contains(tokens.upper()))) {
            if (tokens.peek().isSymbol("(")) {
                tokens.goTo(tokens.closing());
            }
            to = tokens.next().end();
        }
        String type = tokens.text(from, to).strip();
        Domain of = domains.get(called(type));
        Domain domain =
                of == null ? new Domain(type, tokens.rest()) : new Domain(of.type, of.rules + " " + tokens.rest());
        if (domain.type.isEmpty() || domain.type.length() + domain.rules.length() > LONGEST) {
            return false;
        }
        domains.put(name, domain);
        return true;
    }

    /** The enumeration of that name, if one was made. */
    Optional<Enumeration> enumeration(String written) {
        return Optional.ofNullable(enumerations.get(called(written)));
    }

    /**
     * The type that a domain is made of, which is none itself.
     *
     * @return empty for a type that is no domain
     */
    Optional<String> madeOf(String written) {
        return Optional.ofNullable(domains.get(called(written))).map(Domain::type);
    }

    /** What a domain says of a column that has it. */
    String rules(String written, String column) {
        Domain domain = domains.get(called(written));
        return domain == null ? "" : DomainText.ofColumn(domain.rules, column);
    }

    /** A name that stands alone, without its schema; what is more than that names nothing that was made here. */
    private String called(String written) {
        Tokens tokens = new Tokens(written, scripting::folded);
        String name = tokens.isName() ? last(tokens.path()) : written;
        return tokens.hasMore() ? written : name;
    }

    private static String last(List<String> path) {
        return path.get(path.size() - 1);
    }
}
