package org.orderlyferry.bench;

import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;

/**
 * A whole crossing from one PostgreSQL database to another, by commands: run next to the same by hand, going on after a kill,
 * catching up, and undoing. {@code -Dbench.part=0.1} takes tables a tenth as large.
 */
public final class CrossingBench extends CommandBench {

    private static final int ROUNDS = Integer.getInteger("bench.rounds", 3);

    /** The narrow table's records. */
    private static final int NARROW = 4_000_000;

    private static final String NO_SUCH_TABLE = "42P01";

    private CrossingBench() {}

    /**
     * Runs it all.
     *
     * @param arguments where to write the table, in Markdown
     */
    public static void main(String[] arguments) throws Exception {
        new CrossingBench().into(Path.of(arguments[0]));
    }

    @Override
    void run() throws Exception {
        Shape usual = Shape.all(PART).get(0);
        Commands.sql(from(), usual.statements().toArray(String[]::new));
        Commands.sql(
                from(),
                "ALTER TABLE usual ADD COLUMN changed bigint",
                "UPDATE usual SET changed = id",
                "CREATE INDEX ON usual (changed)",
                "VACUUM FULL ANALYZE usual");
        double whole = byHand();
        catchUp(whole);
        undo();
        Commands.sql(from(), "DROP TABLE usual");
        Shape narrow = Shape.all(PART).get(1);
        Commands.sql(from(), narrow.statements().toArray(String[]::new));
        killed();
    }

    private void clean() throws Exception {
        Commands.sql(to(), "DROP TABLE IF EXISTS usual");
    }

    private Path set() {
        return folder().resolve("set");
    }

    private Path crossing() {
        return folder().resolve("crossing.yaml");
    }

    private double byHand() throws Exception {
        Measure hand = Measure.of("hand", () -> {
            commands().ferry("export", from(), set(), "usual", "--overwrite");
            commands().ferry("load", set(), to());
            commands().ferry("reconcile", set(), to(), "--lanes", "2");
        });
        Measure run = Measure.of("run", () -> commands().ferry("run", crossing()));
        for (int round = 0; round < ROUNDS; round++) {
            clean();
            hand.round();
            clean();
            draft();
            run.round();
        }
        line("`run` / export, load and reconcile by hand, a million rows", run.median(), "by hand", hand.median());
        return run.median();
    }

    private void draft() throws Exception {
        if (Files.exists(folder().resolve("runs"))) {
            Trees.remove(folder().resolve("runs"));
        }
        Files.deleteIfExists(crossing());
        commands().ferry("draft", from(), to(), "usual", "--file", crossing());
    }

    private void change() throws Exception {
        Commands.sql(from(), "UPDATE usual SET amount = amount + 1, changed = changed + 10000000 WHERE id % 100 = 0");
    }

    private void catchUp(double whole) throws Exception {
        Measure compared = Measure.of("compared", () -> commands().ferry("run", crossing(), "--catch-up"));
        Measure told = Measure.of("told", () -> commands().ferry("run", crossing(), "--catch-up"));
        for (int round = 0; round < ROUNDS; round++) {
            change();
            compared.round();
        }
        String text = Files.readString(crossing());
        Files.writeString(crossing(), text.replace("grows-by: \"\"", "grows-by: changed"));
        commands().ferry("run", crossing(), "--catch-up");
        for (int round = 0; round < ROUNDS; round++) {
            change();
            told.round();
        }
        line(
                "`run --catch-up` of 1 % of them, found by comparing / the whole crossing",
                compared.median(), "whole", whole);
        line("the same, told by a column / the whole crossing", told.median(), "whole", whole);
    }

    private void undo() throws Exception {
        draft();
        Files.writeString(crossing(), Files.readString(crossing()).replace("onto: refuse", "onto: replace"));
        undone("`undo` of that table, which was replaced, from the backup / the run");
        Files.writeString(
                crossing(), Files.readString(crossing()).replace("keep-replaced: false", "keep-replaced: true"));
        undone("the same, where the target has kept it (`keep-replaced`) / the run");
    }

    private void undone(String what) throws Exception {
        Measure run = Measure.of("replace", () -> commands().ferry("run", crossing()));
        Measure undo = Measure.of("undo", () -> commands().ferry("undo", crossing()));
        for (int round = 0; round < ROUNDS; round++) {
            run.round();
            undo.round();
        }
        line(what, undo.median(), "run", run.median());
    }

    /** How many records are in by their receipts. */
    private long received() throws SQLException {
        try (Connection connection = DriverManager.getConnection(to());
                Statement statement = connection.createStatement();
                ResultSet result = statement.executeQuery("SELECT SUM(records) FROM orderly_ferry_receipts")) {
            result.next();
            return result.getLong(1);
        } catch (SQLException e) {
            if (NO_SUCH_TABLE.equals(e.getSQLState())) {
                return 0;
            }
            throw e;
        }
    }

    /** The load of the narrow table, from a set of several slices; killed when one half of the records are in. */
    private void killed() throws Exception {
        commands().ferry("export", from(), set(), "narrow", "--overwrite", "--slice-rows", "200000");
        Measure whole = Measure.of("whole", () -> commands().ferry("load", set(), to()));
        Measure rest = Measure.of("rest", () -> commands().ferry("load", set(), to()));
        for (int round = 0; round < ROUNDS; round++) {
            Commands.sql(to(), "DROP TABLE IF EXISTS narrow");
            whole.round();
            Commands.sql(to(), "DROP TABLE IF EXISTS narrow");
            commands().killed(() -> received() >= NARROW * PART / 2, "load", set(), to());
            rest.round();
        }
        line(
                "going on after a kill at one half of a load of four million rows / the load",
                rest.median(),
                "whole",
                whole.median());
    }
}
