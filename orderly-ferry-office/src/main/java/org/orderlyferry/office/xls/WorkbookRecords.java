package org.orderlyferry.office.xls;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.apache.poi.hssf.record.BOFRecord;
import org.apache.poi.hssf.record.BoundSheetRecord;
import org.apache.poi.hssf.record.DateWindow1904Record;
import org.apache.poi.hssf.record.EOFRecord;
import org.apache.poi.hssf.record.ExtendedFormatRecord;
import org.apache.poi.hssf.record.FormatRecord;
import org.apache.poi.hssf.record.Record;
import org.apache.poi.hssf.record.RecordFactoryInputStream;
import org.apache.poi.hssf.record.SSTRecord;
import org.apache.poi.hssf.usermodel.HSSFDataFormat;
import org.jspecify.annotations.Nullable;

/** What stands in front of a binary workbook's sheets: their names, the texts of all, formats, and which day is the first. */
final class WorkbookRecords {

    private final List<BoundSheetRecord> sheets = new ArrayList<>();
    private final List<ExtendedFormatRecord> styles = new ArrayList<>();
    private final Map<Integer, String> formats = new HashMap<>();
    private @Nullable SSTRecord texts;
    private boolean from1904;

    /** Reads them up to the first sheet. */
    WorkbookRecords(RecordFactoryInputStream in) {
        int depth = 0;
        Record record = in.nextRecord();
        while (record != null) {
            depth += record instanceof BOFRecord ? 1 : 0;
            if (record instanceof EOFRecord && --depth == 0) {
                break;
            }
            take(record);
            record = in.nextRecord();
        }
    }

    private void take(Record record) {
        if (record instanceof BoundSheetRecord sheet) {
            sheets.add(sheet);
        } else if (record instanceof ExtendedFormatRecord style) {
            styles.add(style);
        } else if (record instanceof FormatRecord format) {
            formats.put(format.getIndexCode(), format.getFormatString());
        } else if (record instanceof SSTRecord all) {
            texts = all;
        } else if (record instanceof DateWindow1904Record window) {
            from1904 = window.getWindowing() == 1;
        }
    }

    /** The sheets in the order in which people see them. */
    List<String> names() {
        return sheets.stream().map(BoundSheetRecord::getSheetname).toList();
    }

    boolean isHidden(int sheet) {
        return sheets.get(sheet).isHidden() || sheets.get(sheet).isVeryHidden();
    }

    /** At which byte of the workbook a sheet begins. */
    int position(int sheet) {
        return sheets.get(sheet).getPositionOfBof();
    }

    boolean isFrom1904() {
        return from1904;
    }

    /** One of the texts that cells refer to. */
    String text(int index) {
        if (texts == null || index < 0 || index >= texts.getNumUniqueStrings()) {
            throw new IllegalArgumentException("a cell refers to a text that isn't there; the file is damaged");
        }
        return texts.getString(index).getString();
    }

    /** The format in which a cell's number is shown; null for none. */
    @Nullable
    String format(int style) {
        if (style < 0 || style >= styles.size()) {
            return null;
        }
        int index = styles.get(style).getFormatIndex();
        String told = formats.get(index);
        return told != null || index >= HSSFDataFormat.getNumberOfBuiltinBuiltinFormats()
                ? told
                : HSSFDataFormat.getBuiltinFormat((short) index);
    }
}
