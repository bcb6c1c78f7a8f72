package org.orderlyferry.office.xlsx;

import java.io.File;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.util.HashMap;
import java.util.Map;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.zip.ZipEntry;
import java.util.zip.ZipFile;
import javax.xml.stream.XMLStreamReader;
import org.orderlyferry.office.sheet.SheetMarks;

/** How a workbook's sheet is shown to people, which the library that reads its values says nothing of. */
final class DrawnSheet {

    private static final String FOLDER = "xl/";

    /** Cells from one to another, as {@code B3:C4}. */
    private static final Pattern AREA = Pattern.compile("([A-Z]{1,3})(\\d{1,7}):([A-Z]{1,3})(\\d{1,7})");

    private DrawnSheet() {}

    /** Tells of a sheet's hidden columns and rows, and of cells that are drawn as one (ISO/IEC 29500-1, 18.3.1). */
    static void tell(File file, String sheet, SheetMarks marks) throws IOException {
        try (ZipFile zip = new ZipFile(file)) {
            ZipEntry part = part(zip, sheet);
            if (part != null && mayTell(zip, part)) {
                WorkbookParts.each(zip, part, (name, xml) -> take(name, xml, marks));
            }
        }
    }

    /** Few sheets have any such thing, and looking for its bytes takes a tenth of the time that reading XML does. */
    private static boolean mayTell(ZipFile zip, ZipEntry part) throws IOException {
        byte[] chunk = new byte[64 * 1024];
        String end = "";
        try (InputStream in = zip.getInputStream(part)) {
            for (int read = in.readNBytes(chunk, 0, chunk.length);
                    read > 0;
                    read = in.readNBytes(chunk, 0, chunk.length)) {
                String text = end + new String(chunk, 0, read, StandardCharsets.ISO_8859_1);
                // in UTF-16 every other byte is 0
                if (text.contains("hidden") || text.contains("mergeCell") || text.indexOf('\0') >= 0) {
                    return true;
                }
                end = text.substring(Math.max(0, text.length() - "mergeCell".length()));
            }
        }
        return false;
    }

    private static void take(String name, XMLStreamReader xml, SheetMarks marks) {
        if (name.equals("row") && WorkbookParts.isTrue(xml.getAttributeValue(null, "hidden"))) {
            // a row needn't say which one it is
            if (number(xml, "r") > 0) {
                marks.hidden(number(xml, "r"), 1);
            }
        } else if (name.equals("col") && WorkbookParts.isTrue(xml.getAttributeValue(null, "hidden"))) {
            marks.hiddenColumns(number(xml, "min"), number(xml, "max"));
        } else if (name.equals("mergeCell")) {
            String ref = xml.getAttributeValue(null, "ref");
            Matcher area = AREA.matcher(ref == null ? "" : ref);
            if (area.matches()) {
                long columns = area.group(1).equals(area.group(3)) ? 1 : 2;
                marks.merged(Long.parseLong(area.group(2)), Long.parseLong(area.group(4)), columns);
            }
        }
    }

    /** An attribute's number, or 0. */
    private static long number(XMLStreamReader xml, String attribute) {
        String number = xml.getAttributeValue(null, attribute);
        return number != null && number.matches("\\d{1,7}") ? Long.parseLong(number) : 0;
    }

    /** The part that a sheet stands in, or null where the file names it in some way of its own. */
    private static ZipEntry part(ZipFile zip, String sheet) throws IOException {
        ZipEntry workbook = zip.getEntry(FOLDER + "workbook.xml");
        ZipEntry relations = zip.getEntry(FOLDER + "_rels/workbook.xml.rels");
        if (workbook == null || relations == null) {
            return null;
        }
        String[] id = {null};
        WorkbookParts.each(zip, workbook, (name, xml) -> {
            if (name.equals("sheet") && id[0] == null && sheet.equals(xml.getAttributeValue(null, "name"))) {
                for (int i = 0; i < xml.getAttributeCount(); i++) {
                    String space = xml.getAttributeNamespace(i);
                    if (xml.getAttributeLocalName(i).equals("id") && space != null && !space.isEmpty()) {
                        id[0] = xml.getAttributeValue(i);
                    }
                }
            }
        });
        Map<String, String> targets = new HashMap<>();
        WorkbookParts.each(zip, relations, (name, xml) -> {
            String target = xml.getAttributeValue(null, "Target");
            if (name.equals("Relationship") && target != null) {
                targets.put(xml.getAttributeValue(null, "Id"), target);
            }
        });
        String target = targets.get(id[0]);
        return target == null ? null : zip.getEntry(target.startsWith("/") ? target.substring(1) : FOLDER + target);
    }
}
