package org.orderlyferry.databases.script;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import org.orderlyferry.databases.dialect.Dialect;
import org.orderlyferry.databases.dialect.Scripting;
import org.orderlyferry.databases.sql.SqlToken;
import org.orderlyferry.model.ColumnDefault;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.Enumeration;
import org.orderlyferry.model.GenerationRule;
import org.orderlyferry.model.Identity;
import org.orderlyferry.model.IndexDefinition;
import org.orderlyferry.model.Key;
import org.orderlyferry.model.LeftBehind;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.SqlText;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.model.TypeName;
import org.orderlyferry.problem.MalformedFileException;

/** The tables that a script makes, from its CREATE, ALTER and COMMENT statements. Not safe for use by several threads. */
final class ScriptTables {

    private static final Set<String> COLUMN_END = Set.of(
            "NOT",
            "NULL",
            "DEFAULT",
            "PRIMARY",
            "UNIQUE",
            "REFERENCES",
            "CHECK",
            "CONSTRAINT",
            "COLLATE",
            "COMMENT",
            "AUTO_INCREMENT",
            "AUTOINCREMENT",
            "GENERATED",
            "AS",
            "ON",
            "KEY",
            "INVISIBLE",
            "STORED",
            "VIRTUAL",
            "PERSISTENT");
    private static final Set<String> OTHER_THINGS = Set.of(
            "VIEW", "TRIGGER", "FUNCTION", "PROCEDURE", "POLICY", "RULE", "EVENT", "AGGREGATE", "DOMAIN", "EXTENSION");

    /** What ALTER TABLE can do without changing records or definitions. */
    private static final Set<String> HARMLESS_CHANGES = Set.of(
            "OWNER",
            "ENABLE",
            "DISABLE",
            "CLUSTER",
            "SET",
            "REPLICA",
            "VALIDATE",
            "AUTO_INCREMENT",
            "FORCE",
            "NO",
            "REPLICATE",
            "ROW_FORMAT",
            "COMMENT");

    /** Rules of tables that only one system has. */
    private static final Set<String> SPECIAL = Set.of("FULLTEXT", "SPATIAL", "EXCLUDE", "PERIOD");

    /** A counter of which nothing is said. */
    private static final Identity PLAIN = new Identity(false, 1, 1, 1);

    private final Dialect dialect;
    private final Scripting scripting;
    private final TableRules rules;
    private final Map<String, Enumeration> enumerations = new LinkedHashMap<>();
    private final Map<TableName, TableDefinition.Builder> tables = new LinkedHashMap<>();
    private final List<LeftBehind> leftBehind = new ArrayList<>();
    private final ScriptStatements statements = new ScriptStatements();
    private final ScriptIndex index = new ScriptIndex();
    private final List<TableName> madeInTransaction = new ArrayList<>();
    private long line;
    private long before;

    ScriptTables(Dialect dialect) {
        this.dialect = dialect;
        this.scripting = dialect.scripting();
        this.rules = new TableRules(dialect);
    }

    List<TableDefinition> tables() {
        return tables.values().stream().map(TableDefinition.Builder::build).toList();
    }

    /** Where each table's records are. */
    ScriptIndex index() {
        return index;
    }

    List<LeftBehind> leftBehind() {
        List<LeftBehind> all = new ArrayList<>(leftBehind);
        all.addAll(statements.leftBehind(
                tables.keySet().stream().map(TableName::name).collect(Collectors.toSet())));
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
                return;
            }
            line = input.line();
            Optional<DataStatement> data = DataStatement.of(sql);
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
            statements.records(data.get().table(), sql, line);
            index.records(data.get().table(), before, input.start(), line, input.delimiter());
            if (data.get().inLines()) {
                skipBlock(input);
            } else {
                table = data.get().table();
            }
        }
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
        String sql = PlainStrings.of(DataStatement.text(bytes), scripting.hasBackslashes());
        Tokens tokens = new Tokens(sql);
        if (tokens.skip("CREATE")) {
            create(tokens);
        } else if (tokens.skip("ALTER")) {
            alterAny(tokens);
        } else if (tokens.skip("DROP")) {
            drop(tokens);
        } else if (tokens.skip("COMMENT")) {
            tokens.skip("ON");
            comment(tokens);
        } else {
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
            madeInTransaction.forEach(tables::remove);
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
        if (!tokens.skip("TABLE")) {
            if (tokens.isWord() && List.of("INDEX", "COLUMN", "CONSTRAINT").contains(tokens.upper())) {
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
            if (tables.remove(name) != null) {
                index.drop(name.name(), before);
                statements.tell("DROP TABLE " + name, "the table and its records so far never came to be", line);
            }
        } while (tokens.skip(","));
    }

    private void alterAny(Tokens tokens) {
        if (tokens.skip("TABLE")) {
            alter(tokens);
            return;
        }
        String rest = tokens.rest().toUpperCase(Locale.ROOT);
        boolean harmless = rest.contains(" OWNER ")
                || rest.startsWith("SEQUENCE")
                || rest.startsWith("DEFAULT PRIVILEGES")
                || rest.startsWith("DATABASE")
                || rest.startsWith("INDEX");
        if (!harmless) {
            statements.tell("ALTER " + (tokens.isWord() ? tokens.upper() : ""), "it isn't followed", line);
        }
    }

    private void create(Tokens tokens) {
        boolean unique = false;
        while (tokens.hasMore()) {
            if (tokens.skip("TABLE")) {
                table(tokens);
                return;
            }
            if (tokens.skip("INDEX")) {
                index(tokens, unique);
                return;
            }
            if (tokens.skip("TYPE")) {
                enumeration(tokens);
                return;
            }
            String word = tokens.peek().text().toUpperCase(Locale.ROOT);
            if (OTHER_THINGS.contains(word)) {
                tokens.next();
                tokens.skip("IF");
                tokens.skip("NOT");
                tokens.skip("EXISTS");
                TableName name = tokens.isName() ? tokens.name() : TableName.of("(unnamed)");
                leftBehind.add(new LeftBehind(
                        word.toLowerCase(Locale.ROOT),
                        name.toString(),
                        "its SQL is " + dialect.system() + "'s own; make it anew at the target"));
                return;
            }
            unique |= tokens.skip("UNIQUE");
            if (!word.equals("UNIQUE")) {
                tokens.next();
            }
        }
    }

    private void enumeration(Tokens tokens) {
        TableName name = tokens.name();
        if (tokens.skip("AS") && tokens.skip("ENUM") && tokens.skip("(")) {
            List<String> values = new ArrayList<>();
            while (tokens.hasMore() && !tokens.skip(")")) {
                SqlToken token = tokens.next();
                if (token.kind() == SqlToken.Kind.STRING) {
                    values.add(token.text());
                }
            }
            enumerations.put(name.name(), new Enumeration(name.name(), values));
        }
    }

    private void table(Tokens tokens) {
        tokens.skip("IF");
        tokens.skip("NOT");
        tokens.skip("EXISTS");
        TableName name = tokens.name();
        TableDefinition.Builder table = TableDefinition.named(name).system(dialect.system());
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
            if (rules.begin(tokens)) {
                rule(name, table, tokens, end);
            } else if (tokens.isWord() && tokens.upper().equals("LIKE")) {
                statements.tell("CREATE TABLE … (LIKE …)", "columns of another table aren't taken over", line);
            } else {
                column(table, tokens, end);
            }
            tokens.goTo(end);
        } while (tokens.skip(","));
        tokens.skip(")");
        while (tokens.hasMore()) {
            if (tokens.skip("COMMENT")) {
                tokens.skip("=");
                table.comment(tokens.string());
            } else if (tokens.isWord() && Set.of("AS", "SELECT", "INHERITS").contains(tokens.upper())) {
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

    /** Takes a rule of a table, or leaves it behind where nothing else has such a one. */
    private void rule(TableName name, TableDefinition.Builder table, Tokens tokens, int end) {
        if (SPECIAL.contains(tokens.upper())) {
            leftBehind.add(new LeftBehind(
                    tokens.upper().toLowerCase(Locale.ROOT) + " rule",
                    name.toString(),
                    dialect.system() + " alone has it: "
                            + tokens.text(tokens.start(), tokens.end(end)).strip()));
            tokens.goTo(end);
            return;
        }
        rules.take(table, tokens, end);
    }

    private void column(TableDefinition.Builder table, Tokens tokens, int end) {
        String name = tokens.next().text();
        int from = tokens.start();
        boolean characterSet = false;
        int typeEnd = from;
        while (tokens.at() < end && !(tokens.isWord() && COLUMN_END.contains(tokens.upper()))) {
            if (tokens.isWord() && tokens.upper().equals("CHARACTER") && tokens.isNextWord("SET")) {
                characterSet = true;
                break;
            }
            typeEnd = tokens.peek().end();
            if (tokens.peek().isSymbol("(")) {
                tokens.goTo(tokens.closing());
                typeEnd = tokens.peek().end();
            }
            tokens.next();
        }
        if (characterSet) {
            tokens.next();
            tokens.next();
            tokens.next();
        }
        String written = tokens.text(from, Math.max(from, typeEnd)).strip();
        rest(table, name, written, tokens, end);
    }

    private void rest(TableDefinition.Builder table, String name, String written, Tokens tokens, int end) {
        boolean nullable = true;
        Optional<ColumnDefault> defaultValue = Optional.empty();
        Optional<Identity> identity =
                written.toLowerCase(Locale.ROOT).contains("serial") ? Optional.of(PLAIN) : Optional.empty();
        Optional<GenerationRule> generation = Optional.empty();
        String comment = "";
        String own = scripting.ownType(written);
        Optional<Enumeration> enumeration = enumeration(written, own);
        LogicalType type = enumeration
                .map(e -> LogicalType.varchar(e.longest()))
                .orElseGet(() -> type(own, tokens.text(tokens.start(), tokens.end(end))));
        Optional<String> held = dialect.types().held(own);
        if (enumeration.isEmpty() && !written.isEmpty() && held.isEmpty()) {
            statements.tell(
                    "the type " + written,
                    "it is none of " + dialect.system() + "'s own, and its values are carried as " + type,
                    line);
        }
        while (tokens.at() < end) {
            if (tokens.skip("NOT")) {
                nullable &= !tokens.skip("NULL");
            } else if (tokens.skip("DEFAULT")) {
                String sql = tokens.expression(end, COLUMN_END);
                if (sql.toLowerCase(Locale.ROOT).startsWith("nextval(")) {
                    identity = Optional.of(PLAIN);
                } else {
                    defaultValue = scripting.defaultValue(sql, type);
                }
            } else if (tokens.skip("PRIMARY")) {
                table.primaryKey(new Key("", List.of(name)));
                nullable = false;
                // the one type that makes a key SQLite's own record number
                identity = dialect.system().equals("SQLite") && own.equals("INTEGER") ? Optional.of(PLAIN) : identity;
            } else if (tokens.skip("UNIQUE")) {
                table.unique(new Key("", List.of(name)));
            } else if (tokens.skip("AUTO_INCREMENT") || tokens.skip("AUTOINCREMENT")) {
                identity = Optional.of(PLAIN);
            } else if (tokens.skip("GENERATED")) {
                boolean always = tokens.skip("ALWAYS");
                tokens.skip("BY");
                tokens.skip("DEFAULT");
                tokens.skip("AS");
                if (tokens.skip("IDENTITY")) {
                    identity = Optional.of(CounterText.read(tokens, always));
                } else if (tokens.peek().isSymbol("(")) {
                    generation = Optional.of(generation(tokens));
                }
            } else if (tokens.skip("AS")) {
                if (tokens.at() < end && tokens.peek().isSymbol("(")) {
                    generation = Optional.of(generation(tokens));
                }
            } else if (tokens.skip("COMMENT")) {
                comment = tokens.string();
            } else if (tokens.skip("REFERENCES")) {
                table.foreignKey(TableRules.reference("", List.of(name), tokens, end));
            } else if (tokens.skip("CHECK")) {
                rules.check(table, "", tokens);
            } else {
                tokens.next();
            }
        }
        table.column(ColumnDefinition.named(name, type)
                .nullable(nullable)
                .defaultValue(defaultValue)
                .identity(identity)
                .generation(generation)
                .enumeration(enumeration)
                // what only this system's words say, such as a sign that isn't there, is kept for this system
                .sourceType(type.name() == TypeName.JSON ? "" : held.orElse(""))
                .comment(comment)
                .build());
    }

    /** One that was made by its name before, or that stands here with its values. */
    private Optional<Enumeration> enumeration(String written, String own) {
        if (own.regionMatches(true, 0, "enum(", 0, "enum(".length())) {
            List<String> values = SqlToken.of(own).stream()
                    .filter(t -> t.kind() == SqlToken.Kind.STRING)
                    .map(SqlToken::text)
                    .toList();
            return values.isEmpty() ? Optional.empty() : Optional.of(new Enumeration("", values));
        }
        return Optional.ofNullable(
                enumerations.get(written.substring(written.lastIndexOf('.') + 1).replace("\"", "")));
    }

    private LogicalType type(String own, String whole) {
        LogicalType type = dialect.types().logical(own);
        // MariaDB has no other JSON than a text with this check
        return whole.contains("json_valid(") ? LogicalType.JSON : type;
    }

    private GenerationRule generation(Tokens tokens) {
        String sql = tokens.parenthesis();
        boolean stored = tokens.skip("STORED") || tokens.skip("PERSISTENT");
        return new GenerationRule(new SqlText(sql, dialect.system()), stored);
    }

    private void index(Tokens tokens, boolean unique) {
        tokens.skip("CONCURRENTLY");
        tokens.skip("IF");
        tokens.skip("NOT");
        tokens.skip("EXISTS");
        String name = tokens.next().text();
        tokens.skip("ON");
        tokens.skip("ONLY");
        TableName table = tokens.name();
        if (tokens.skip("USING")) {
            tokens.next();
        }
        TableDefinition.Builder builder = tables.get(table);
        if (builder == null) {
            return;
        }
        String own = tokens.rest();
        boolean plain = own.indexOf('(', 1) < 0 && !own.toUpperCase(Locale.ROOT).contains(" WHERE ");
        builder.index(
                plain
                        ? new IndexDefinition(
                                name, unique, TableRules.parts(tokens), Optional.empty(), Optional.empty())
                        : new IndexDefinition(
                                name,
                                unique,
                                List.of(),
                                Optional.empty(),
                                Optional.of(new SqlText(own, dialect.system()))));
    }

    private void alter(Tokens tokens) {
        tokens.skip("ONLY");
        tokens.skip("IF");
        tokens.skip("EXISTS");
        TableName name = tokens.name();
        TableDefinition.Builder table = tables.get(name);
        while (tokens.hasMore()) {
            int end = tokens.elementEnd();
            String word = tokens.isWord() ? tokens.upper() : "";
            String whole = tokens.text(tokens.start(), tokens.end(end));
            if (!HARMLESS_CHANGES.contains(word) && (table == null || !altered(table, tokens, end))) {
                String head = whole.substring(0, Math.min(whole.length(), 60)).replaceAll("\\s+", " ");
                statements.tell("ALTER TABLE " + name + " " + head, "it isn't followed", line);
            }
            tokens.goTo(end);
            if (!tokens.skip(",")) {
                return;
            }
        }
    }

    /** Takes a change of a table; false for one that isn't followed. */
    private boolean altered(TableDefinition.Builder table, Tokens tokens, int end) {
        if (tokens.skip("ADD")) {
            if (rules.begin(tokens)) {
                rule(table.build().name(), table, tokens, end);
            } else {
                boolean column = tokens.skip("COLUMN");
                if (tokens.skip("IF")) {
                    tokens.skip("NOT");
                    tokens.skip("EXISTS");
                }
                if (!column && !tokens.isName()) {
                    return false;
                }
                column(table, tokens, end);
            }
            return true;
        }
        if (tokens.skip("ALTER")) {
            tokens.skip("COLUMN");
            return alterColumn(table, tokens.next().text(), tokens);
        }
        if (tokens.skip("MODIFY")) {
            tokens.skip("COLUMN");
            String column = tokens.next().text();
            boolean counter = tokens.text(tokens.start(), tokens.end(end))
                    .toUpperCase(Locale.ROOT)
                    .contains("AUTO_INCREMENT");
            if (counter) {
                identity(table, column, PLAIN);
            }
            return counter;
        }
        return false;
    }

    private static boolean alterColumn(TableDefinition.Builder table, String column, Tokens tokens) {
        if (tokens.skip("ADD") && tokens.skip("GENERATED")) {
            boolean always = tokens.skip("ALWAYS");
            tokens.skip("BY");
            tokens.skip("DEFAULT");
            tokens.skip("AS");
            tokens.skip("IDENTITY");
            identity(table, column, CounterText.read(tokens, always));
            return true;
        }
        if (!tokens.skip("SET")) {
            return false;
        }
        if (tokens.skip("STATISTICS") || tokens.skip("STORAGE") || tokens.skip("COMPRESSION")) {
            return true;
        }
        if (tokens.skip("NOT")) {
            table.columns(table.build().columns().stream()
                    .map(c -> c.name().equals(column)
                            ? c.toBuilder().nullable(false).build()
                            : c)
                    .toList());
            return true;
        }
        if (tokens.skip("DEFAULT") && tokens.isWord() && tokens.upper().equals("NEXTVAL")) {
            identity(table, column, PLAIN);
            return true;
        }
        return false;
    }

    private static void identity(TableDefinition.Builder table, String column, Identity identity) {
        table.columns(table.build().columns().stream()
                .map(c -> c.name().equals(column)
                        ? c.toBuilder()
                                .identity(Optional.of(identity))
                                .defaultValue(Optional.empty())
                                .build()
                        : c)
                .toList());
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
        TableDefinition.Builder table = tables.get(Tokens.name(path));
        if (table == null) {
            return;
        }
        if (onColumn) {
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
