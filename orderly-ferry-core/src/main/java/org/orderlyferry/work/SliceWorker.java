package org.orderlyferry.work;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.Consumer;
import java.util.function.Function;
import java.util.function.Supplier;
import org.orderlyferry.io.Closing;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.model.Finding;
import org.orderlyferry.model.FindingCode;
import org.orderlyferry.place.PartFile;
import org.orderlyferry.place.PartWriter;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.QueryPlace;
import org.orderlyferry.place.TablePart;
import org.orderlyferry.problem.FerryException;
import org.orderlyferry.problem.PlaceException;
import org.orderlyferry.problem.UsageException;
import org.orderlyferry.progress.ProgressListener;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordReader;
import org.orderlyferry.record.RecordWriter;
import org.orderlyferry.record.Rejects;
import org.orderlyferry.record.Screen;
import org.orderlyferry.tally.TallyTaker;

/**
 * Runs tasks: read, check, tally, fit, write, receipt. The one place where records move. The reader is closed before what
 * was written is made to last, so that whatever fails after that, or in ending what is already done, can't make anybody
 * move the slice a second time. Safe for use by several threads, each with a place of its own.
 */
final class SliceWorker {

    private final Function<SliceTask, TallyTaker> tallying;
    private final WorkPlan plan;
    private final Writing writing;
    private final Function<TablePart, Optional<Screen>> screening;
    private final Rejects rejects;
    private final Pace pace;
    private final ProgressListener told;
    private final Runnable check;

    /** Where records go. */
    @FunctionalInterface
    interface Writing {
        RecordWriter writer(TablePart part, Supplier<String> receipt);
    }

    /**
     * A worker.
     *
     * @param plan has the definitions of queries; null where there are none
     * @param writing where records go; null where they are only counted
     * @param tallying what is counted of a slice's records; null for the forms of their own types
     * @param screening takes records out that can't be written; asked only where rejects let the others go on
     * @param rejects hears of records that can't be taken
     * @param check asked again and again whether to go on
     */
    SliceWorker(
            WorkPlan plan,
            Function<SliceTask, TallyTaker> tallying,
            Writing writing,
            Function<TablePart, Optional<Screen>> screening,
            Rejects rejects,
            Pace pace,
            ProgressListener told,
            Runnable check) {
        this.plan = plan;
        this.tallying = tallying;
        this.writing = writing;
        this.screening = screening;
        this.rejects = rejects;
        this.pace = pace;
        this.told = told;
        this.check = check;
    }

    /**
     * Runs a task, once.
     *
     * @param place the source, as this thread reads it
     */
    SliceResult run(SliceTask task, Place place) {
        Rejects.Attempt heard = rejects.attempt();
        try {
            SliceResult result = new Attempt(task, place, heard).run();
            heard.keep();
            return result;
        } catch (PlaceException e) {
            if (e.isLost()) {
                heard.drop();
            } else {
                heard.keep();
            }
            throw e;
        } catch (FerryException e) {
            heard.keep();
            throw e;
        }
    }

    /** One attempt at moving a slice. */
    private final class Attempt {

        private final SliceTask task;
        private final Place place;
        private final Rejects.Attempt heard;
        private final Mover mover;
        private final List<Finding> findings = new ArrayList<>();
        /** Counts all that is read. */
        private TallyTaker taker;
        /** Counts what is written, where some can be left out. */
        private Optional<TallyTaker> rest = Optional.empty();

        private long leftOut;

        Attempt(SliceTask task, Place place, Rejects.Attempt heard) {
            this.task = task;
            this.place = place;
            this.heard = heard;
            this.mover = new Mover(task.part().table(), told, pace, check);
        }

        SliceResult run() {
            return writing == null ? counted() : moved();
        }

        private SliceResult counted() {
            try (RecordReader reader = reader()) {
                taker = taker(reader.table().columns());
                mover.count(reader, taker);
                findings.addAll(reader.findings());
                leftOut = reader.leftOut();
            }
            return result(0);
        }

        private SliceResult moved() {
            RecordWriter writer = null;
            try {
                // opened first: a table that may not be read leaves no file
                try (RecordReader reader = reader()) {
                    taker = taker(reader.table().columns());
                    writer = writing.writer(task.part(), () -> result(0).toJson());
                    mover.move(reader, screen(reader.table().columns()), taker, writer);
                    findings.addAll(reader.findings());
                    leftOut = reader.leftOut();
                }
                check.run();
                writer.finish();
            } catch (RuntimeException e) {
                Closing.after(e, writer);
                throw e;
            }
            long size = writer instanceof PartWriter part
                    ? part.files().stream().mapToLong(PartFile::bytes).sum()
                    : 0;
            closeLasting(writer);
            return result(size);
        }

        /** Where nothing is rejected, whoever writes says what can't be written. */
        private Consumer<RecordBatch> screen(List<ColumnDefinition> columns) {
            Optional<Screen> screen = rejects == Rejects.STOP ? Optional.empty() : screening.apply(task.part());
            if (screen.isEmpty()) {
                return batch -> {};
            }
            TallyTaker left = taker(columns);
            rest = Optional.of(left);
            return batch -> {
                screen.get().screen(batch, heard);
                left.add(batch);
            };
        }

        private RecordReader reader() {
            SliceSource source = task.source();
            if (source instanceof SliceSource.OfTable table) {
                return place.read(table.slice(), heard);
            }
            if (source instanceof SliceSource.OfQuery query && place instanceof QueryPlace queryable) {
                return queryable.read(query.query(), plan.definition(query.table()), query.range(), heard);
            }
            throw new UsageException(place.address() + " can't answer queries; only a database can");
        }

        private TallyTaker taker(List<ColumnDefinition> columns) {
            return tallying == null ? TallyTaker.of(columns) : tallying.apply(task);
        }

        private SliceResult result(long fileBytes) {
            return new SliceResult(
                    task.part(),
                    mover.rows(),
                    heard.count(),
                    leftOut,
                    mover.bytes(),
                    fileBytes,
                    rest.orElse(taker).tally(),
                    taker.tally(),
                    findings);
        }

        /** What was made to last stays so, also if its writer can't be ended as it should. */
        private void closeLasting(RecordWriter writer) {
            try {
                writer.close();
            } catch (FerryException e) {
                findings.add(Finding.of(
                        FindingCode.SETTLED_LATE, task.part().table(), "its records are in, but " + e.getMessage()));
            }
        }
    }
}
