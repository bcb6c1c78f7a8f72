package org.orderlyferry.office.xlsx;

import java.io.UncheckedIOException;
import java.util.ArrayList;
import java.util.Iterator;
import java.util.List;
import java.util.function.Function;
import java.util.function.Supplier;
import java.util.stream.Stream;
import org.dhatim.fastexcel.reader.ExcelReaderException;
import org.dhatim.fastexcel.reader.Row;

/** A sheet's rows, one after the other, with whatever the library fails with as an error of the file. */
final class SheetRows implements Iterable<Row>, Iterator<Row>, AutoCloseable {

    private final Stream<Row> stream;
    private final Iterator<Row> rows;
    private final Function<Exception, RuntimeException> failed;

    SheetRows(Stream<Row> stream, Function<Exception, RuntimeException> failed) {
        this.stream = stream;
        this.rows = stream.iterator();
        this.failed = failed;
    }

    @Override
    public Iterator<Row> iterator() {
        return this;
    }

    @Override
    public boolean hasNext() {
        return read(rows::hasNext);
    }

    @Override
    public Row next() {
        return read(rows::next);
    }

    /** All that are left; for a sheet of a size that people read. */
    List<Row> toList() {
        List<Row> all = new ArrayList<>();
        forEachRemaining(all::add);
        return all;
    }

    private <T> T read(Supplier<T> step) {
        try {
            return step.get();
        } catch (ExcelReaderException | IllegalStateException | IllegalArgumentException | UncheckedIOException e) {
            throw failed.apply(e);
        }
    }

    @Override
    public void close() {
        stream.close();
    }
}
