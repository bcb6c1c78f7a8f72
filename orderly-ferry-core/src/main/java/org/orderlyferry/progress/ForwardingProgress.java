package org.orderlyferry.progress;

import java.util.List;
import org.apiguardian.api.API;
import org.jspecify.annotations.NullMarked;
import org.orderlyferry.model.TableName;

/** Hands on what it hears, to a listener that may be another one each time. */
@NullMarked
@API(status = API.Status.INTERNAL)
public abstract class ForwardingProgress implements ProgressListener {

    /** Who hears of it now. */
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
    public void looked(TableName table, long rows) {
        further().looked(table, rows);
    }

    @Override
    public void tableFinished(TableName table, long rows) {
        further().tableFinished(table, rows);
    }
}
