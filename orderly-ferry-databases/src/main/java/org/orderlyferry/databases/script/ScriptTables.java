package org.orderlyferry.databases.script;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import org.orderlyferry.databases.dialect.Scripting;
import org.orderlyferry.databases.dialect.SystemSql;
import org.orderlyferry.model.ColumnDefault;
import org.orderlyferry.model.LeftBehind;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.problem.MalformedFileException;

/** The tables that a script makes, from its CREATE, ALTER and COMMENT statements. Not safe for use by several threads. */
final class ScriptTables {

    /** What stands before INDEX where it is one of a kind of its own. */
    private static final Set<String> SPECIAL_INDEXES = Set.of("FULLTEXT", "SPATIAL", "COLUMNSTORE", "XML", "VECTOR");

    private static final Set<String> OTHER_THINGS = Set.of(
            "VIEW", "TRIGGER", "FUNCTION", "PROCEDURE", "POLICY", "RULE", "EVENT", "AGGREGATE", "DOMAIN", "EXTENSION");

    private final SystemSql dialect;
    private final Scripting scripting;
    private final MadeTables tables;
    private final StatementHeads heads;
    private final List<LeftBehind> leftBehind = new ArrayList<>();
    private final ScriptStatements statements = new ScriptStatements();
    private final ScriptSequences sequences;
    private final ScriptColumns columns;
    private final TableChanges changes;
    private final DroppedRules dropped;
    private final ScriptIndex index = new ScriptIndex();
    private final QuotingModes modes;
    /** Tables with lists of columns that statements have named. */
    private final Set<String> named = new HashSet<>();

    private final List<TableName> madeInTransaction = new ArrayList<>();
    private long line;
    private long before;

    ScriptTables(SystemSql dialect) {
        this.dialect = dialect;
        this.tables = new MadeTables(dialect.naming().caseMatters());
        this.heads = new StatementHeads(dialect.scripting());
        this.scripting = dialect.scripting();
        this.modes = new QuotingModes(scripting.hasBackslashes());
        this.sequences = new ScriptSequences(scripting::folded);
        this.columns = new ScriptColumns(dialect, statements, leftBehind, sequences);
        this.dropped = new DroppedRules(tables::areOne);
        this.changes = new TableChanges(columns, dropped, statements);
    }

    List<TableDefinition> tables() {
        return tables.definitions();
    }

    /** Where each table's records are. */
    ScriptIndex index() {
        return index;
    }

    List<LeftBehind> leftBehind() {
        List<LeftBehind> all = new ArrayList<>(leftBehind);
        all.addAll(statements.leftBehind(tables.names()));
        all.addAll(sequences.leftBehind());
        return all;
    }

    /** Reads a whole script. */
    void read(ScriptInput input) {
        String table = "";
        while (true) {
            input.endStatement();
            if (!table.isEmpty() && !input.tail().isEmpty()) {
                statements.tell("INSERT … " + shortened(input.tail()), ScriptStatements.EACH, line);
            }
            table = "";
            before = input.position();
            String sql = input.next();
            if (sql == null) {
                input.shellLines().forEach(statements::shell);
                sequences.settle(tables);
                return;
            }
            line = input.line();
            Optional<DataStatement> data = heads.of(sql);
            if (data.isEmpty()) {
                try {
                    take(sql);
                } catch (IllegalArgumentException e) {
                    // a key without columns, a table without a name …
                    throw new MalformedFileException(
                            input.origin("", line), "the statement that begins here can't be read: " + e.getMessage());
                }
                continue;
            }
            String called = tables.called(data.get().table());
            statements.records(called, sql, line);
            leftToServer(data.get(), called);
            index.records(called, before, input.start(), line, input.delimiter());
            if (data.get().inLines()) {
                skipBlock(input);
            } else {
                table = called;
            }
        }
    }

    /** Tells of columns that a statement doesn't name, and whose defaults only a server works out. */
    private void leftToServer(DataStatement data, String called) {
        if (data.columns().isEmpty() || !named.add(called + data.columns())) {
            return;
        }
        tables.definitions().stream()
                .filter(t -> t.name().name().equals(called))
                .flatMap(t -> t.columns().stream())
                .filter(c -> data.columns().stream().noneMatch(n -> tables.areOne(n, c.name())))
                .forEach(c -> {
                    if (c.generation().isPresent()) {
                        statements.tell(
                                "INSERT INTO " + called + " without " + c.name(),
                                "it is computed, which only a server does; the column comes as null where the target"
                                        + " doesn't compute it",
                                line);
                    }
                    c.defaultValue()
                            .filter(d -> d instanceof ColumnDefault.Expression
                                    && ScriptValue.ofDefault(d).isEmpty())
                            .ifPresent(d -> statements.tell(
                                    "INSERT INTO " + called + " without " + c.name(),
                                    "what its default " + ((ColumnDefault.Expression) d).sql()
                                            + " gives, only a server can say; the column comes as null",
                                    line));
                });
    }

    private static String shortened(String tail) {
        String[] words = tail.split("\\s+");
        return String.join(" ", List.of(words).subList(0, Math.min(2, words.length)))
                .toUpperCase(Locale.ROOT);
    }

    private static void skipBlock(ScriptInput input) {
        input.endLine();
        String text = input.dataLine();
        while (text != null && !text.equals("\\.")) {
            text = input.dataLine();
        }
    }

    /** Takes a statement that brings no records. */
    private void take(String bytes) {
        statements.take(bytes, line);
        String sql = modes.plain(DataStatement.text(bytes));
        Tokens tokens = new Tokens(sql, scripting::folded);
        boolean block = scripting.batches() == Scripting.Batches.SLASH
                && (tokens.peek().is("BEGIN") || tokens.peek().is("DECLARE"));
        if (block) {
            statements.tell(
                    "block of " + tokens.upper(), "what it does isn't done here, where no server runs it", line);
        } else if (tokens.skip("CREATE")) {
            create(tokens);
        } else if (tokens.skip("ALTER")) {
            alterAny(tokens);
        } else if (tokens.skip("DROP")) {
            drop(tokens);
        } else if (tokens.skip("COMMENT")) {
            tokens.skip("ON");
            comment(tokens);
        } else if (tokens.isWord() && tokens.upper().startsWith("EXEC")) {
            property(sql);
        } else {
            sequences.set(sql);
            transaction(tokens);
        }
    }

    private void transaction(Tokens tokens) {
        if (tokens.skip("BEGIN") || tokens.skip("START")) {
            madeInTransaction.clear();
            index.begin("", before);
        } else if (tokens.skip("SAVEPOINT")) {
            index.begin(tokens.isName() ? tokens.next().text() : "", before);
        } else if (tokens.skip("COMMIT") || tokens.skip("END")) {
            madeInTransaction.clear();
            index.commit(before);
        } else if (tokens.skip("ROLLBACK")) {
            boolean work = tokens.skip("WORK") || tokens.skip("TRANSACTION");
            String savepoint = "";
            if (tokens.skip("TO")) {
                tokens.skip("SAVEPOINT");
                savepoint = tokens.isName() ? tokens.next().text() : "";
            }
            rollback(savepoint, work);
        }
    }

    private void rollback(String savepoint, boolean whole) {
        int gone = index.rollback(savepoint, before);
        boolean tablesToo = List.of("PostgreSQL", "SQLite").contains(dialect.system()) && savepoint.isEmpty();
        if (tablesToo) {
            tables.removeAll(madeInTransaction);
        }
        if (gone > 0 || tablesToo && !madeInTransaction.isEmpty()) {
            statements.tell(
                    whole ? "ROLLBACK WORK" : "ROLLBACK",
                    "what stands before it in its transaction never came to be",
                    line);
        }
        madeInTransaction.clear();
    }

    private void drop(Tokens tokens) {
        if (tokens.skip("INDEX")) {
            dropIndex(tokens);
            return;
        }
        if (!tokens.skip("TABLE")) {
            if (tokens.isWord() && List.of("COLUMN", "CONSTRAINT").contains(tokens.upper())) {
                statements.tell("DROP " + tokens.upper(), "it isn't followed", line);
            }
            return;
        }
        tokens.skip("IF");
        tokens.skip("EXISTS");
        do {
            if (!tokens.isName()) {
                return;
            }
            TableName name = tokens.name();
            TableName made = tables.remove(name);
            if (made != null) {
                index.drop(made.name(), before);
                statements.tell("DROP TABLE " + name, "the table and its records so far never came to be", line);
            }
        } while (tokens.skip(","));
    }

    private void dropIndex(Tokens tokens) {
        tokens.skip("CONCURRENTLY");
        boolean maybe = tokens.skip("IF") && tokens.skip("EXISTS");
        if (!tokens.isName()) {
            return;
        }
        List<String> path = tokens.path();
        String name = path.get(path.size() - 1);
        boolean there = tokens.skip("ON")
                ? Optional.ofNullable(tables.get(tokens.name()))
                        .filter(t -> dropped.named(t, name))
                        .isPresent()
                : tables.anyOf(t -> dropped.named(t, name));
        if (!there && !maybe) {
            statements.tell("DROP INDEX " + name, "no index of that name was made", line);
        }
    }

    private void alterAny(Tokens tokens) {
        if (tokens.skip("TABLE")) {
            changes.take(tokens, tables, name -> !index.of(name).isEmpty(), line);
            return;
        }
        if (tokens.peek().is("SEQUENCE")) {
            tokens.next();
            sequences.alter(tokens);
            return;
        }
        String rest = tokens.rest().toUpperCase(Locale.ROOT);
        boolean harmless = rest.contains(" OWNER ")
                || rest.startsWith("DEFAULT PRIVILEGES")
                || rest.startsWith("DATABASE")
                || rest.startsWith("INDEX");
        if (!harmless) {
            statements.tell("ALTER " + (tokens.isWord() ? tokens.upper() : ""), "it isn't followed", line);
        }
    }

    private void create(Tokens tokens) {
        boolean unique = false;
        String special = "";
        while (tokens.hasMore()) {
            if (tokens.skip("TABLE")) {
                table(tokens);
                return;
            }
            if (tokens.skip("INDEX")) {
                if (special.isEmpty()) {
                    new IndexText(dialect.system(), statements).take(tokens, unique, tables, line);
                } else {
                    own(special + " index", tokens);
                }
                return;
            }
            if (columns.types().create(tokens)) {
                return;
            }
            if (tokens.skip("SEQUENCE")) {
                sequences.create(tokens);
                return;
            }
            String word = tokens.peek().text().toUpperCase(Locale.ROOT);
            if (OTHER_THINGS.contains(word)) {
                tokens.next();
                tokens.skip("IF");
                tokens.skip("NOT");
                tokens.skip("EXISTS");
                own(word.toLowerCase(Locale.ROOT), tokens);
                return;
            }
            special = SPECIAL_INDEXES.contains(word) ? word.toLowerCase(Locale.ROOT) : special;
            unique |= tokens.skip("UNIQUE");
            if (!word.equals("UNIQUE")) {
                tokens.next();
            }
        }
    }

    private void own(String kind, Tokens tokens) {
        TableName name = tokens.isName() ? tokens.name() : TableName.of("(unnamed)");
        leftBehind.add(new LeftBehind(
                kind, name.toString(), "its SQL is " + dialect.system() + "'s own; make it anew at the target"));
    }

    private void table(Tokens tokens) {
        tokens.skip("IF");
        tokens.skip("NOT");
        tokens.skip("EXISTS");
        TableName name = tokens.name();
        TableDefinition.Builder table = TableDefinition.named(name).system(dialect.system());
        String unsaid = dialect.system().equals("MariaDB") ? WrittenCollation.ofTable(tokens, scripting) : "";
        if (!tokens.skip("(")) {
            String how = tokens.isWord() ? tokens.upper() : "";
            leftBehind.add(new LeftBehind(
                    "table",
                    name.toString(),
                    "it is made " + (how.equals("PARTITION") ? "as a part of another" : "from another or from a query")
                            + " (CREATE TABLE … " + how + " in line " + line + "), which only a server can do"));
            return;
        }
        tables.put(name, table);
        madeInTransaction.add(name);
        do {
            int end = tokens.elementEnd();
            if (columns.isRule(tokens)) {
                columns.rule(name, table, tokens, end);
            } else if (tokens.isWord() && tokens.upper().equals("LIKE")) {
                statements.tell("CREATE TABLE … (LIKE …)", "columns of another table aren't taken over", line);
            } else {
                columns.column(table, unsaid, tokens, end, line);
            }
            tokens.goTo(end);
        } while (tokens.skip(","));
        tokens.skip(")");
        columns.options(name, tokens);
        new TableOptions(statements).take(name, table, tokens, line);
    }

    /** SQL Server's comments are properties. */
    private void property(String sql) {
        Optional<CommentProperty> property = CommentProperty.of(sql);
        if (property.isEmpty()) {
            statements.tell("EXEC", "what it does isn't done here, where no server runs it", line);
            return;
        }
        comment(
                Tokens.name(List.of(property.get().schema(), property.get().table())),
                property.get().column(),
                property.get().text());
    }

    private void comment(Tokens tokens) {
        boolean onColumn = tokens.skip("COLUMN");
        if (!onColumn && !tokens.skip("TABLE")) {
            return;
        }
        List<String> path = tokens.path();
        tokens.skip("IS");
        String text = tokens.string();
        String column = onColumn ? path.remove(path.size() - 1) : "";
        comment(Tokens.name(path), column, text);
    }

    private void comment(TableName name, String column, String text) {
        TableDefinition.Builder table = tables.get(name);
        if (table == null) {
            return;
        }
        if (!column.isEmpty()) {
            table.columns(table.build().columns().stream()
                    .map(c -> c.name().equals(column)
                            ? c.toBuilder().comment(text).build()
                            : c)
                    .toList());
        } else {
            table.comment(text);
        }
    }
}
