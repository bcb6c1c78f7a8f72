package org.orderlyferry.office.ods;

import javax.xml.stream.XMLStreamConstants;
import javax.xml.stream.XMLStreamException;
import javax.xml.stream.XMLStreamReader;

/**
 * A cell's text: its paragraphs with line ends between them, white space as ISO/IEC 26300-1, 6.1.2 has it. What hangs on a cell, such
 * as a comment or a picture, is none of its text.
 */
final class CellText {

    static final String TEXT = "urn:oasis:names:tc:opendocument:xmlns:text:1.0";

    /** More than any spreadsheet program holds in a cell; so much was made to do harm. */
    static final int MOST = 100_000_000;

    private final StringBuilder text = new StringBuilder();
    private final XMLStreamReader xml;
    private boolean atStart;
    private boolean lastSoft;

    private CellText(XMLStreamReader xml) {
        this.xml = xml;
    }

    /** Reads a cell's element up to its end. */
    static String read(XMLStreamReader xml) throws XMLStreamException {
        CellText cell = new CellText(xml);
        boolean any = false;
        while (xml.next() != XMLStreamConstants.END_ELEMENT) {
            if (xml.isStartElement()) {
                if (isText(xml, "p") || isText(xml, "h")) {
                    if (any) {
                        cell.text.append('\n');
                    }
                    any = true;
                    cell.atStart = true;
                    cell.paragraph();
                    cell.dropEnd();
                } else {
                    OdsRows.skip(xml);
                }
            }
        }
        return cell.text.toString();
    }

    private static boolean isText(XMLStreamReader xml, String name) {
        return xml.getLocalName().equals(name) && TEXT.equals(xml.getNamespaceURI());
    }

    private void paragraph() throws XMLStreamException {
        int depth = 0;
        while (true) {
            switch (xml.next()) {
                case XMLStreamConstants.START_ELEMENT -> {
                    if (special()) {
                        break;
                    }
                    depth++;
                }
                case XMLStreamConstants.END_ELEMENT -> {
                    if (depth-- == 0) {
                        return;
                    }
                }
                case XMLStreamConstants.CHARACTERS, XMLStreamConstants.CDATA, XMLStreamConstants.SPACE ->
                    add(xml.getText());
                default -> {
                    // a remark
                }
            }
        }
    }

    /** Elements that stand for white space, and those that aren't text; else their text counts. */
    private boolean special() throws XMLStreamException {
        boolean ours = TEXT.equals(xml.getNamespaceURI());
        String name = xml.getLocalName();
        if (ours && name.equals("s")) {
            String count = xml.getAttributeValue(TEXT, "c");
            hard(' ', count == null ? 1 : OdsRows.count(count, MOST));
        } else if (ours && name.equals("tab")) {
            hard('\t', 1);
        } else if (ours && name.equals("line-break")) {
            hard('\n', 1);
        } else if (OdsInput.OFFICE.equals(xml.getNamespaceURI()) && name.startsWith("annotation")
                || ours && name.equals("note")) {
            // a comment
        } else {
            return false;
        }
        OdsRows.skip(xml);
        return true;
    }

    /** White space that stays. */
    private void hard(char c, int count) throws XMLStreamException {
        mustFit(count);
        text.append(String.valueOf(c).repeat(count));
        atStart = false;
        lastSoft = false;
    }

    private void add(String more) throws XMLStreamException {
        mustFit(more.length());
        for (int i = 0; i < more.length(); i++) {
            char c = more.charAt(i);
            if (c == ' ' || c == '\t' || c == '\n' || c == '\r') {
                if (!lastSoft && !atStart) {
                    text.append(' ');
                    lastSoft = true;
                }
            } else {
                text.append(c);
                lastSoft = false;
                atStart = false;
            }
        }
    }

    /** Blanks at a paragraph's end aren't there. */
    private void dropEnd() {
        if (lastSoft) {
            text.setLength(text.length() - 1);
            lastSoft = false;
        }
    }

    private void mustFit(int more) throws XMLStreamException {
        if (text.length() + (long) more > MOST) {
            throw new XMLStreamException("a cell has more than " + MOST + " characters");
        }
    }
}
