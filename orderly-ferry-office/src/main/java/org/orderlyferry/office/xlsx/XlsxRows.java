package org.orderlyferry.office.xlsx;

import java.io.UncheckedIOException;
import java.util.Iterator;
import java.util.function.Function;
import java.util.function.Supplier;
import java.util.stream.Stream;
import org.dhatim.fastexcel.reader.ExcelReaderException;
import org.dhatim.fastexcel.reader.Row;
import org.orderlyferry.office.sheet.SheetRow;
import org.orderlyferry.office.sheet.SheetRows;

/** A sheet's rows, one after the other, with whatever the library fails with as an error of the file. */
final class XlsxRows implements SheetRows {

    private final Stream<Row> stream;
    private final Iterator<Row> rows;
    private final boolean from1904;
    private final Function<Exception, RuntimeException> failed;

    XlsxRows(Stream<Row> stream, boolean from1904, Function<Exception, RuntimeException> failed) {
        this.stream = stream;
        this.rows = stream.iterator();
        this.from1904 = from1904;
        this.failed = failed;
    }

    @Override
    public boolean hasNext() {
        return read(rows::hasNext);
    }

    @Override
    public SheetRow next() {
        return new XlsxRow(read(rows::next), from1904);
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
