package org.orderlyferry.databases.script;

import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import java.util.regex.Pattern;
import org.orderlyferry.databases.dialect.Scripting;
import org.orderlyferry.databases.dialect.SystemSql;
import org.orderlyferry.databases.sql.SqlToken;
import org.orderlyferry.model.ColumnDefault;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.Enumeration;
import org.orderlyferry.model.GenerationRule;
import org.orderlyferry.model.Identity;
import org.orderlyferry.model.Key;
import org.orderlyferry.model.LeftBehind;
import org.orderlyferry.model.LogicalType;
import org.orderlyferry.model.SqlText;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.model.TypeName;

/** The columns of tables that a script makes, and the types that it makes for them. Not safe for use by several threads. */
final class ScriptColumns {

    /** What ends a type, and an expression. */
    static final Set<String> COLUMN_END = Set.of(
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
            "IDENTITY",
            "ROWGUIDCOL",
            "SPARSE",
            "MASKED",
            "ENCRYPTED",
            "FILESTREAM",
            "ENABLE",
            "DISABLE",
            "AS",
            "ON",
            "KEY",
            "INVISIBLE",
            "STORED",
            "VIRTUAL",
            "PERSISTENT");

    /** Rules of tables that only one system has. */
    private static final Set<String> SPECIAL = Set.of("FULLTEXT", "SPATIAL", "EXCLUDE", "PERIOD");

    /** What makes a text one of JSON, and asks for nothing else. */
    private static final Pattern JSON_CHECK = Pattern.compile(
            "(?is)\\bCHECK\\s*+\\(\\s*+json_valid\\s*+\\(\\s*+(?:`(?:[^`]|``)++`|\"(?:[^\"]|\"\")++\"|[\\w$]++)\\s*+\\)\\s*+\\)");

    /** A counter of which nothing is said. */
    static final Identity PLAIN = new Identity(false, 1, 1, 1);

    private final SystemSql dialect;
    private final Scripting scripting;
    private final TableRules rules;
    private final UnusualWords unusual;
    private final ScriptStatements statements;
    private final ScriptSequences sequences;
    private final List<LeftBehind> leftBehind;
    private final ScriptTypes types;

    /**
     * Of one script.
     *
     * @param statements hears of what isn't understood
     * @param leftBehind takes what nothing else has
     * @param sequences hears of columns that take their values from one
     */
    ScriptColumns(
            SystemSql dialect, ScriptStatements statements, List<LeftBehind> leftBehind, ScriptSequences sequences) {
        this.sequences = sequences;
        this.dialect = dialect;
        this.scripting = dialect.scripting();
        this.types = new ScriptTypes(scripting);
        this.rules = new TableRules(dialect);
        this.unusual = new UnusualWords(dialect.system(), leftBehind);
        this.statements = statements;
        this.leftBehind = leftBehind;
    }

    /** Whether ALTER TABLE says ADD but once for all that it adds. */
    boolean isAddedWithoutSaying() {
        return dialect.system().equals("SQL Server");
    }

    /** Whether a rule begins here rather than a column. */
    boolean isRule(Tokens tokens) {
        return rules.begin(tokens);
    }

    /** The types that the script makes. */
    ScriptTypes types() {
        return types;
    }

    /** Takes a rule of a table, or leaves it behind where nothing else has such a one. */
    void rule(TableName name, TableDefinition.Builder table, Tokens tokens, int end) {
        if (SPECIAL.contains(tokens.upper())) {
            leftBehind.add(new LeftBehind(
                    tokens.upper().toLowerCase(Locale.ROOT) + " rule",
                    name.toString(),
                    dialect.system() + " alone has it: "
                            + tokens.text(tokens.start(), tokens.end(end)).strip()));
            tokens.goTo(end);
            return;
        }
        if (unusual.rule(name, tokens, end)) {
            rules.take(table, tokens, end);
        }
    }

    /**
     * Takes what a column becomes. MariaDB has its whole definition there, others its type, and possibly that it can't be null.
     *
     * @param written its name in the script
     * @param records whether the table has any so far: a server would make other values of some, or has given them the default
     *     that it had
     * @return false for a column that isn't there, or where records would change
     */
    boolean changed(TableDefinition.Builder table, String written, boolean records, Tokens tokens, int end, long line) {
        TableDefinition before = table.build();
        Optional<ColumnDefinition> old = before.columns().stream()
                .filter(c -> dialect.naming().caseMatters()
                        ? c.name().equals(written)
                        : c.name().equalsIgnoreCase(written))
                .findFirst();
        if (old.isEmpty()) {
            return false;
        }
        TableDefinition.Builder alone = TableDefinition.named(before.name());
        column(alone, old.get().name(), "", tokens, end, line);
        ColumnDefinition given = alone.build().columns().get(0);
        boolean whole = dialect.system().equals("MariaDB");
        boolean otherDefault = whole
                && given.identity().isEmpty()
                && !given.defaultValue().equals(old.get().defaultValue());
        if (records && (otherDefault || !isWrittenAlike(old.get().type(), given.type()))) {
            return false;
        }
        ColumnDefinition becomes = whole
                ? given
                : old.get().withType(given.type()).toBuilder()
                        .sourceType(given.sourceType())
                        .enumeration(given.enumeration())
                        .nullable(old.get().nullable() && given.nullable())
                        .build();
        table.columns(before.columns().stream()
                .map(c -> c.equals(old.get()) ? becomes : c)
                .toList());
        alone.build().primaryKey().ifPresent(table::primaryKey);
        alone.build().uniqueKeys().forEach(table::unique);
        return true;
    }

    /** Whether what was written for one type stands for the same value of another, or is refused. */
    private static boolean isWrittenAlike(LogicalType before, LogicalType after) {
        boolean counts = before.name().isExactNumber() && after.name().isExactNumber();
        boolean texts = before.name().isText()
                && after.name().isText()
                && before.name() != TypeName.CHARACTER
                && after.name() != TypeName.CHARACTER;
        return counts || texts || before.name() == after.name();
    }

    /** Takes a column, with its own rules. */
    void column(TableDefinition.Builder table, Tokens tokens, int end, long line) {
        column(table, "", tokens, end, line);
    }

    /**
     * Takes a column of a table that is made here.
     *
     * @param unsaid how its texts are compared if it doesn't say that itself
     */
    void column(TableDefinition.Builder table, String unsaid, Tokens tokens, int end, long line) {
        String name = tokens.next().text();
        unusual.column(table.build().name(), name, tokens, end);
        column(table, name, unsaid, tokens, end, line);
    }

    /** Tells of a rule that was made and is switched off. */
    void switchedOff(TableName table, String rule) {
        unusual.switchedOff(table, rule);
    }

    /** Tells of what stands behind a table's columns and nothing else has. */
    void options(TableName name, Tokens tokens) {
        unusual.table(name, tokens);
    }

    private void column(TableDefinition.Builder table, String name, String unsaid, Tokens tokens, int end, long line) {
        int from = tokens.start();
        String collation = unsaid;
        boolean bytes = false;
        int typeEnd = from;
        while (tokens.at() < end && !(tokens.isWord() && COLUMN_END.contains(tokens.upper()))) {
            if (WrittenCollation.isSet(tokens)) {
                collation = WrittenCollation.ofSet(tokens, scripting);
            } else if (dialect.system().equals("MariaDB") && tokens.start() > from && tokens.skip("BINARY")) {
                bytes = true;
            } else if (tokens.peek().isSymbol("(")) {
                tokens.goTo(tokens.closing());
                typeEnd = tokens.peek().end();
                tokens.next();
            } else {
                typeEnd = tokens.peek().end();
                tokens.next();
            }
        }
        String written = tokens.text(from, Math.max(from, typeEnd)).strip();
        String of = bytes ? scripting.binaryCollation(collation) : collation;
        Optional<String> domain = types.madeOf(written);
        if (domain.isEmpty()) {
            rest(table, name, written, of, tokens, end, line);
            return;
        }
        leftBehind.add(LeftBehind.of(
                table.build().name(),
                "domain",
                name,
                "the column arrives as the type that " + written + " is made of, with its checks"));
        // the column's own words come after the domain's, and count
        Tokens whole = new Tokens(
                types.rules(written, name) + " " + tokens.text(tokens.start(), tokens.end(end)), scripting::folded);
        tokens.goTo(end);
        rest(table, name, domain.get(), of, whole, whole.count(), line);
    }

    private void rest(
            TableDefinition.Builder table,
            String name,
            String written,
            String unsaid,
            Tokens tokens,
            int end,
            long line) {
        String collation = unsaid;
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
        if (written.isEmpty() && dialect.system().equals("SQL Server")) {
            statements.tell(
                    "the computed column " + name,
                    "its type stands nowhere in the script, and is taken for " + type,
                    line);
        }
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
                if (tokens.isWord() && tokens.upper().equals("ON") && tokens.isNextWord("NULL")) {
                    tokens.next();
                    tokens.next();
                }
                String sql = tokens.expression(end, COLUMN_END);
                if (ScriptSequences.isNext(sql)) {
                    identity = Optional.of(PLAIN);
                    sequences.use(sql, table.build().name(), name);
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
            } else if (tokens.skip("IDENTITY")) {
                identity = Optional.of(CounterText.readPair(tokens));
            } else if (tokens.skip("GENERATED")) {
                boolean always = tokens.skip("ALWAYS");
                tokens.skip("BY");
                tokens.skip("DEFAULT");
                if (tokens.skip("ON")) {
                    tokens.skip("NULL");
                }
                tokens.skip("AS");
                if (tokens.skip("IDENTITY")) {
                    identity = Optional.of(counted(table.build().name(), name, tokens, always));
                } else if (tokens.peek().isSymbol("(")) {
                    generation = Optional.of(generation(tokens));
                }
            } else if (tokens.skip("AS")) {
                if (tokens.at() < end && tokens.peek().isSymbol("(")) {
                    generation = Optional.of(generation(tokens));
                }
            } else if (tokens.skip("COLLATE")) {
                collation = WrittenCollation.read(tokens, scripting);
            } else if (tokens.skip("COMMENT")) {
                comment = tokens.string();
            } else if (tokens.skip("REFERENCES")) {
                table.foreignKey(TableRules.reference("", List.of(name), tokens, end));
            } else if (tokens.skip("CHECK")) {
                if (JSON_CHECK
                        .matcher("CHECK " + tokens.text(tokens.start(), tokens.end(tokens.closing() + 1)))
                        .matches()) {
                    // what the type says already
                    tokens.goTo(tokens.closing() + 1);
                } else {
                    rules.check(table, "", tokens);
                }
            } else {
                tokens.next();
            }
        }
        if (identity.isPresent() && dialect.system().equals("PostgreSQL")) {
            // by this name, unless another is given
            TableName of = table.build().name();
            sequences.named(List.of(of.name() + "_" + name + "_seq"), of, name);
        }
        ColumnDefinition column = ColumnDefinition.named(name, type)
                .nullable(nullable)
                // a counter has no use for another default
                .defaultValue(identity.isPresent() ? Optional.empty() : defaultValue)
                .identity(identity)
                .generation(generation)
                .enumeration(enumeration)
                // what only this system's words say, such as a sign that isn't there, is kept for this system
                .sourceType(type.name() == TypeName.JSON && dialect.system().equals("MariaDB") ? "" : held.orElse(""))
                .comment(comment)
                .build();
        boolean compared = enumeration.isPresent() || type.name().isText() && scripting.isCompared(column.sourceType());
        table.column(compared ? column.toBuilder().collation(collation).build() : column);
    }

    /** A column that is there counts from now on. */
    Identity counted(TableName table, String column, Tokens tokens, boolean always) {
        if (tokens.peek(0).isSymbol("(")
                && tokens.peek(1).is("SEQUENCE")
                && tokens.peek(2).is("NAME")) {
            sequences.named(tokens.pathAt(3), table, column);
        }
        return CounterText.read(tokens, always);
    }

    /** A column that is there takes its values from a sequence from now on. */
    void takesFrom(String expression, TableName table, String column) {
        sequences.use(expression, table, column);
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
        return types.enumeration(written);
    }

    private LogicalType type(String own, String whole) {
        LogicalType type = dialect.types().logical(own);
        // MariaDB has no other JSON than a text with this check
        return JSON_CHECK.matcher(whole).find() ? LogicalType.JSON : type;
    }

    private GenerationRule generation(Tokens tokens) {
        String sql = tokens.parenthesis();
        boolean stored = tokens.skip("STORED") || tokens.skip("PERSISTENT");
        return new GenerationRule(new SqlText(sql, dialect.system()), stored);
    }
}
