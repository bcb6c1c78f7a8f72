package org.orderlyferry.databases.script;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import org.orderlyferry.databases.Dialect;
import org.orderlyferry.databases.Scripting;
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

    private final Dialect dialect;
    private final Scripting scripting;
    private final TableRules rules;
    private final Map<String, Enumeration> enumerations = new LinkedHashMap<>();
    private final Map<TableName, TableDefinition.Builder> tables = new LinkedHashMap<>();
    private final List<LeftBehind> leftBehind = new ArrayList<>();
    private final PassedOver passedOver = new PassedOver();

    ScriptTables(Dialect dialect) {
        this.dialect = dialect;
        this.scripting = dialect.scripting();
        this.rules = new TableRules(dialect);
    }

    List<TableDefinition> tables() {
        return tables.values().stream().map(TableDefinition.Builder::build).toList();
    }

    List<LeftBehind> leftBehind() {
        List<LeftBehind> all = new ArrayList<>(leftBehind);
        all.addAll(passedOver.leftBehind(
                tables.keySet().stream().map(TableName::name).collect(Collectors.toSet())));
        return all;
    }

    /** Takes notice of a statement that brings records. */
    void records(DataStatement data, long line) {
        passedOver.records(data.table(), line);
    }

    /**
     * Takes a statement that brings no records; one that says nothing about tables is passed over, and told if it is about
     * records.
     */
    void take(String bytes, long line) {
        passedOver.take(bytes, line);
        String sql = DataStatement.text(bytes);
        String head = sql.substring(0, Math.min(sql.length(), 200)).toUpperCase(Locale.ROOT);
        if (!head.startsWith("CREATE") && !head.startsWith("ALTER TABLE") && !head.startsWith("COMMENT ON")) {
            return;
        }
        Tokens tokens = new Tokens(sql);
        if (tokens.skip("CREATE")) {
            create(tokens);
        } else if (tokens.skip("ALTER")) {
            tokens.skip("TABLE");
            alter(tokens);
        } else {
            tokens.skip("COMMENT");
            tokens.skip("ON");
            comment(tokens);
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
            return;
        }
        tables.put(name, table);
        do {
            int end = tokens.elementEnd();
            if (tokens.peek().kind() == SqlToken.Kind.WORD
                    && TableRules.begins(tokens.peek().text().toUpperCase(Locale.ROOT))) {
                rules.take(table, tokens, end);
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
            } else {
                tokens.next();
            }
        }
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
        Optional<Identity> identity = written.toLowerCase(Locale.ROOT).contains("serial")
                ? Optional.of(new Identity(false, 1, 1, 1))
                : Optional.empty();
        Optional<GenerationRule> generation = Optional.empty();
        String comment = "";
        LogicalType type = type(written, tokens.text(tokens.start(), tokens.end(end)));
        while (tokens.at() < end) {
            if (tokens.skip("NOT")) {
                nullable &= !tokens.skip("NULL");
            } else if (tokens.skip("DEFAULT")) {
                String sql = tokens.expression(end, COLUMN_END);
                if (sql.toLowerCase(Locale.ROOT).startsWith("nextval(")) {
                    identity = Optional.of(new Identity(false, 1, 1, 1));
                } else {
                    defaultValue = scripting.defaultValue(sql, type);
                }
            } else if (tokens.skip("PRIMARY")) {
                table.primaryKey(new Key("", List.of(name)));
                nullable = false;
            } else if (tokens.skip("UNIQUE")) {
                table.unique(new Key("", List.of(name)));
            } else if (tokens.skip("AUTO_INCREMENT") || tokens.skip("AUTOINCREMENT")) {
                identity = Optional.of(new Identity(false, 1, 1, 1));
            } else if (tokens.skip("GENERATED")) {
                boolean always = tokens.skip("ALWAYS");
                tokens.skip("BY");
                tokens.skip("DEFAULT");
                tokens.skip("AS");
                if (tokens.skip("IDENTITY")) {
                    identity = Optional.of(new Identity(always, 1, 1, 1));
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
        Optional<Enumeration> enumeration = Optional.ofNullable(
                enumerations.get(written.substring(written.lastIndexOf('.') + 1).replace("\"", "")));
        table.column(ColumnDefinition.named(name, type)
                .nullable(nullable)
                .defaultValue(defaultValue)
                .identity(identity)
                .generation(generation)
                .enumeration(enumeration)
                .comment(comment)
                .build());
    }

    private LogicalType type(String written, String whole) {
        LogicalType type = scripting.type(written);
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
        if (table == null) {
            return;
        }
        while (tokens.hasMore()) {
            int end = tokens.elementEnd();
            if (tokens.skip("ADD")) {
                if (tokens.isWord() && TableRules.begins(tokens.upper())) {
                    rules.take(table, tokens, end);
                }
            } else if (tokens.skip("ALTER")) {
                tokens.skip("COLUMN");
                alterColumn(table, tokens.next().text(), tokens);
            } else if (tokens.skip("MODIFY")) {
                String column = tokens.next().text();
                if (tokens.text(tokens.start(), tokens.end(end))
                        .toUpperCase(Locale.ROOT)
                        .contains("AUTO_INCREMENT")) {
                    identity(table, column, false);
                }
            }
            tokens.goTo(end);
            if (!tokens.skip(",")) {
                return;
            }
        }
    }

    private void alterColumn(TableDefinition.Builder table, String column, Tokens tokens) {
        if (tokens.skip("ADD") && tokens.skip("GENERATED")) {
            identity(table, column, tokens.skip("ALWAYS"));
        } else if (tokens.skip("SET")
                && tokens.skip("DEFAULT")
                && tokens.isWord()
                && tokens.upper().equals("NEXTVAL")) {
            identity(table, column, false);
        }
    }

    private static void identity(TableDefinition.Builder table, String column, boolean always) {
        table.columns(table.build().columns().stream()
                .map(c -> c.name().equals(column)
                        ? c.toBuilder()
                                .identity(Optional.of(new Identity(always, 1, 1, 1)))
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
