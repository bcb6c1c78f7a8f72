package org.orderlyferry.format.xml;

import javax.xml.stream.XMLStreamConstants;
import org.orderlyferry.format.FileSettings;
import org.orderlyferry.format.FileSource;
import org.orderlyferry.problem.MalformedFileException;

/**
 * Where the records of a document are.
 *
 * @param kind by what they are known
 * @param record the name of their element
 * @param root the name of the outermost element
 */
record XmlLayout(Kind kind, String record, String root) {

    static final String ROW = "row";

    /** By what records are known. */
    enum Kind {
        /** Elements of a name that was told, however deep. */
        TOLD,
        /** The outermost element is the table, and each element in it a record. */
        ONE_TABLE,
        /** Each element inside the outermost one is a table, and each element in that a record. */
        SEVERAL_TABLES
    }

    /** What a file's beginning, or a setting, says. */
    static XmlLayout of(FileSource file, FileSettings settings) {
        try (XmlInput input = new XmlInput(file, "")) {
            while (input.next() != XMLStreamConstants.START_ELEMENT) {
                if (input.reader().getEventType() == XMLStreamConstants.END_DOCUMENT) {
                    throw new MalformedFileException(input.origin(1), "has no element at all");
                }
            }
            String root = input.name();
            if (settings.text("record").isPresent()) {
                return new XmlLayout(Kind.TOLD, settings.text("record").get(), root);
            }
            if (!input.nextElement()) {
                return new XmlLayout(Kind.ONE_TABLE, ROW, root);
            }
            String first = input.name();
            if (!first.equals(ROW) && input.nextElement() && input.name().equals(ROW)) {
                return new XmlLayout(Kind.SEVERAL_TABLES, ROW, root);
            }
            return new XmlLayout(Kind.ONE_TABLE, first, root);
        }
    }

    /** The table's name where there is one. */
    String table(FileSource file) {
        return kind == Kind.ONE_TABLE && record.equals(ROW) ? XmlNames.back(root) : file.baseName();
    }
}
