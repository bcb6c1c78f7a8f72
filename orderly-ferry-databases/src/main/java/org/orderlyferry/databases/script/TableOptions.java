package org.orderlyferry.databases.script;

import java.util.Set;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;

/** What stands behind a table's columns in CREATE TABLE: what its counter gives next, its comment, and what it is made from besides. */
final class TableOptions {

    /** What a table is made from, beside what stands here. */
    private static final Set<String> FROM_ELSEWHERE = Set.of("AS", "SELECT", "INHERITS");

    private final ScriptStatements statements;

    /**
     * Of a script.
     *
     * @param statements hears of what isn't followed
     */
    TableOptions(ScriptStatements statements) {
        this.statements = statements;
    }

    /** Takes all up to the statement's end. */
    void take(TableName name, TableDefinition.Builder table, Tokens tokens, long line) {
        while (tokens.hasMore()) {
            if (tokens.skip("AUTO_INCREMENT")) {
                tokens.skip("=");
                TableChanges.counted(table, c -> true, tokens);
            } else if (tokens.skip("STORE")) {
                // Oracle's … AS a kind of large objects
                tokens.skip("AS");
            } else if (tokens.skip("COMMENT")) {
                tokens.skip("=");
                table.comment(tokens.string());
            } else if (tokens.isWord() && FROM_ELSEWHERE.contains(tokens.upper())) {
                statements.tell(
                        "CREATE TABLE … " + tokens.upper(),
                        "what it takes from elsewhere for " + name + " is missing",
                        line);
                return;
            } else {
                tokens.next();
            }
        }
    }
}
