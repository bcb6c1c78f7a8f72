package org.orderlyferry.crossing;

import java.util.List;
import org.apiguardian.api.API;
import org.orderlyferry.model.TableName;
import org.orderlyferry.progress.Plan;
import org.orderlyferry.progress.ProgressListener;

/** Hands on what it hears of a run's work, within its steps, to a listener that may be another one for each step. */
@API(status = API.Status.INTERNAL)
public abstract class ForwardingRunListener implements RunListener {

    /** Who hears of the work of the step that is done now. */
    protected abstract ProgressListener further();

    @Override
    public void planned(List<TableName> tables, long rows) {
        further().planned(tables, rows);
    }

    @Override
    public void plan(Plan plan) {
        further().plan(plan);
    }

    @Override
    public void sliceStarted(TableName table) {
        further().sliceStarted(table);
    }

    @Override
    public void sliceFinished(TableName table) {
        further().sliceFinished(table);
    }

    @Override
    public void tryingAgain(TableName table, String why, long pauseMillis) {
        further().tryingAgain(table, why, pauseMillis);
    }

    @Override
    public void stage(Stage stage) {
        further().stage(stage);
    }

    @Override
    public void tableStarted(TableName table, long rows) {
        further().tableStarted(table, rows);
    }

    @Override
    public void moved(TableName table, long rows, long bytes) {
        further().moved(table, rows, bytes);
    }

    @Override
    public void tableFinished(TableName table, long rows) {
        further().tableFinished(table, rows);
    }
}
