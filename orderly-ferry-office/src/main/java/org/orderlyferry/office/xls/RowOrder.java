package org.orderlyferry.office.xls;

import java.io.EOFException;
import java.io.IOException;
import java.io.InputStream;
import java.util.ArrayList;
import java.util.Iterator;
import java.util.List;
import java.util.Map;
import java.util.NavigableMap;
import java.util.Set;
import java.util.TreeMap;
import org.apache.poi.hssf.record.BOFRecord;
import org.apache.poi.hssf.record.BlankRecord;
import org.apache.poi.hssf.record.BoolErrRecord;
import org.apache.poi.hssf.record.EOFRecord;
import org.apache.poi.hssf.record.FormulaRecord;
import org.apache.poi.hssf.record.LabelRecord;
import org.apache.poi.hssf.record.LabelSSTRecord;
import org.apache.poi.hssf.record.MulBlankRecord;
import org.apache.poi.hssf.record.MulRKRecord;
import org.apache.poi.hssf.record.NumberRecord;
import org.apache.poi.hssf.record.RKRecord;
import org.apache.poi.util.LittleEndianInputStream;
import org.orderlyferry.office.sheet.SheetRow;
import org.orderlyferry.office.sheet.SheetRows;

/** In which order a sheet's rows stand: some programs write them column by column, which has to be known before the first is read. */
final class RowOrder {

    /** Cells that are held to bring them in order; a sheet may have eight times as many, and a file that small programs write has few. */
    private static final long MOST_CELLS = 2_000_000;

    /** Records of cells, which begin with the number of their row ([MS-XLS] 2.5.13). */
    private static final Set<Short> CELLS = Set.of(
            FormulaRecord.sid,
            MulRKRecord.sid,
            MulBlankRecord.sid,
            LabelSSTRecord.sid,
            NumberRecord.sid,
            LabelRecord.sid,
            BoolErrRecord.sid,
            RKRecord.sid,
            BlankRecord.sid);

    private RowOrder() {}

    /**
     * Looks through a sheet.
     *
     * @param sheet stands at its first record
     */
    static boolean isKept(InputStream sheet) throws IOException {
        LittleEndianInputStream records = new LittleEndianInputStream(sheet);
        int depth = 0;
        int row = -1;
        do {
            short kind;
            int length;
            try {
                kind = records.readShort();
                length = records.readUShort();
            } catch (RuntimeException e) {
                // told with more words when it is read
                return true;
            }
            if (kind == BOFRecord.sid) {
                depth++;
            } else if (kind == EOFRecord.sid) {
                depth--;
            } else if (depth == 1 && length >= Short.BYTES && CELLS.contains(kind)) {
                int next = records.readUShort();
                length -= Short.BYTES;
                if (next < row) {
                    return false;
                }
                row = next;
            }
            try {
                records.skipNBytes(length);
            } catch (EOFException e) {
                return true;
            }
        } while (depth > 0);
        return true;
    }

    /**
     * Rows in their order.
     *
     * @param pieces of rows, in any; closed when they are read
     */
    static SheetRows sorted(SheetRows pieces) throws IOException {
        NavigableMap<Integer, XlsRow> rows = new TreeMap<>();
        long cells = 0;
        try (pieces) {
            while (pieces.hasNext()) {
                XlsRow piece = (XlsRow) pieces.next();
                cells += piece.cells().size();
                if (cells > MOST_CELLS) {
                    throw new IOException("its rows are in no order, and it has more than " + MOST_CELLS
                            + " cells; a spreadsheet program that opens and saves the file puts them in order");
                }
                rows.merge(piece.number(), piece, RowOrder::both);
            }
        }
        Iterator<Map.Entry<Integer, XlsRow>> all = rows.entrySet().iterator();
        return new SheetRows() {
            @Override
            public boolean hasNext() {
                return all.hasNext();
            }

            @Override
            public SheetRow next() {
                return all.next().getValue();
            }

            @Override
            public void close() {
                // read already
            }
        };
    }

    private static XlsRow both(XlsRow one, XlsRow other) {
        List<XlsCell> cells = new ArrayList<>(one.cells());
        for (int i = 0; i < other.cells().size(); i++) {
            if (i == cells.size()) {
                cells.add(other.cells().get(i));
            } else if (other.cells().get(i) != XlsCell.NOTHING) {
                cells.set(i, other.cells().get(i));
            }
        }
        return new XlsRow(one.number(), cells, one.from1904());
    }
}
