package org.orderlyferry.matrix;

import java.nio.file.Files;
import java.nio.file.Path;
import org.orderlyferry.place.Secrets;
import org.orderlyferry.work.TransferResult;
import org.orderlyferry.work.Underway;
import org.orderlyferry.work.WorkPlan;

/** A process that does one piece of a written plan: {@code begin}, the number of a task, or {@code finish}. */
final class PieceOfWork {

    private PieceOfWork() {}

    public static void main(String[] arguments) throws Exception {
        WorkPlan plan = WorkPlan.parse(Files.readString(Path.of(arguments[0])));
        Secrets secrets = Secrets.unattended();
        switch (arguments[1]) {
            case "begin" -> {
                try (Underway work = Underway.begin(plan, secrets)) {
                    work.suspend();
                }
            }
            case "finish" -> {
                try (Underway work = Underway.begin(plan, secrets)) {
                    TransferResult result = work.finish();
                    System.out.println(result.rows() + " rows");
                }
            }
            default -> {
                try (Underway work = Underway.join(plan, secrets)) {
                    work.run(plan.tasks().get(Integer.parseInt(arguments[1])));
                }
            }
        }
    }
}
