package org.orderlyferry.cli;

import org.orderlyferry.progress.Plan;

/** What an export is about to do, in a few lines. */
final class PlanView {

    private PlanView() {}

    static void show(Console console, Plan plan) {
        long rows = plan.tables().stream().mapToLong(Plan.Table::rows).sum();
        console.line("Reading " + Amounts.count(plan.tables().size(), "table")
                + (rows == 0 ? "" : " with " + Amounts.count(rows, "row")) + " over "
                + Amounts.count(plan.connections(), "connection")
                + (plan.lanes() > 1 ? ", " + plan.lanes() + " slices at once" : ""));
        for (Plan.Table table : plan.tables()) {
            if (table.slices() > 1) {
                console.line("  " + table.table() + " in " + Amounts.count(table.slices(), "slice")
                        + (table.by().isEmpty() ? "" : " by " + String.join(", ", table.by())) + each(table));
            }
        }
        console.line("");
        console.out().flush();
    }

    /** How many records of a query come, nobody knows before. */
    private static String each(Plan.Table table) {
        return table.rows() == 0 ? "" : ", of about " + Amounts.count(table.rows() / table.slices(), "row") + " each";
    }
}
