package org.orderlyferry.format.xml;

import javax.xml.stream.XMLStreamConstants;
import org.orderlyferry.problem.MalformedFileException;

/** Goes from one record's element to the next. */
final class XmlRecords {

    private final XmlInput input;
    private final XmlLayout layout;
    /** The element of the wanted table; empty for all. */
    private final String wanted;

    private boolean started;
    private boolean ended;
    private boolean inTable;
    private String table = "";

    XmlRecords(XmlInput input, XmlLayout layout, String wanted) {
        this.input = input;
        this.layout = layout;
        this.wanted = wanted;
    }

    /** The element of the table that the record is in. */
    String table() {
        return table;
    }

    /** Goes to the next record's beginning; false behind the last. */
    boolean next() {
        if (ended) {
            return false;
        }
        ended = !following();
        return !ended;
    }

    private boolean following() {
        return switch (layout.kind()) {
            case TOLD -> told();
            case ONE_TABLE -> child();
            case SEVERAL_TABLES -> grandchild();
        };
    }

    private boolean told() {
        while (true) {
            int event = input.next();
            if (event == XMLStreamConstants.END_DOCUMENT) {
                return false;
            }
            if (event == XMLStreamConstants.START_ELEMENT && input.name().equals(layout.record())) {
                return true;
            }
        }
    }

    private void start() {
        if (!started) {
            started = true;
            while (input.next() != XMLStreamConstants.START_ELEMENT) {
                // what stands before the outermost element
            }
        }
    }

    private boolean child() {
        start();
        if (!input.nextElement()) {
            // to the document's end, which may hold an error
            while (input.next() != XMLStreamConstants.END_DOCUMENT) {
                // nothing of a record's
            }
            return false;
        }
        mustBeRecord();
        return true;
    }

    private void mustBeRecord() {
        if (!input.name().equals(layout.record())) {
            throw new MalformedFileException(
                    input.origin(input.line()),
                    "an element " + input.name() + " stands where records are elements " + layout.record()
                            + "; the setting record tells which element is one");
        }
    }

    private boolean grandchild() {
        start();
        while (true) {
            if (inTable) {
                if (input.nextElement()) {
                    mustBeRecord();
                    return true;
                }
                inTable = false;
            }
            if (!input.nextElement()) {
                return false;
            }
            table = input.name();
            if (wanted.isEmpty() || wanted.equals(table)) {
                inTable = true;
            } else {
                input.skip();
            }
        }
    }
}
