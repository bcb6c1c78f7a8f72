package org.orderlyferry.office.ods;

import com.ctc.wstx.api.WstxInputProperties;
import com.ctc.wstx.stax.WstxInputFactory;
import java.io.IOException;
import java.io.InputStream;
import java.util.ArrayDeque;
import java.util.Deque;
import java.util.HashMap;
import java.util.HashSet;
import java.util.Map;
import java.util.Set;
import javax.xml.stream.XMLInputFactory;
import javax.xml.stream.XMLStreamConstants;
import javax.xml.stream.XMLStreamException;
import javax.xml.stream.XMLStreamReader;
import org.codehaus.stax2.XMLStreamReader2;
import org.jspecify.annotations.Nullable;

/** The part in which the sheets are, from one sheet to the next. */
final class OdsContent implements AutoCloseable {

    static final String TABLE = "urn:oasis:names:tc:opendocument:xmlns:table:1.0";
    private static final String STYLE = "urn:oasis:names:tc:opendocument:xmlns:style:1.0";

    private final InputStream in;
    private final XMLStreamReader2 xml;
    /** The elements around, each with the prefixes that it declares. */
    private final Deque<Map<String, String>> around = new ArrayDeque<>();
    /** Styles of sheets that aren't shown, so far. */
    private final Set<String> unseen = new HashSet<>();

    private @Nullable String style;

    /**
     * Begins to read.
     *
     * @param in closed with it, also where this fails
     */
    OdsContent(InputStream in) throws IOException, XMLStreamException {
        try {
            this.xml = (XMLStreamReader2) factory().createXMLStreamReader(in);
            this.in = in;
        } catch (XMLStreamException | RuntimeException e) {
            in.close();
            throw e;
        }
    }

    static XMLInputFactory factory() {
        WstxInputFactory factory = new WstxInputFactory();
        factory.setProperty(XMLInputFactory.SUPPORT_DTD, false);
        factory.setProperty(XMLInputFactory.IS_SUPPORTING_EXTERNAL_ENTITIES, false);
        factory.setProperty(XMLInputFactory.IS_COALESCING, false);
        factory.setProperty(WstxInputProperties.P_MAX_ATTRIBUTE_SIZE, CellText.MOST);
        return factory;
    }

    XMLStreamReader xml() {
        return xml;
    }

    /** Goes to the next sheet; a table inside of one is none. */
    boolean toSheet() throws XMLStreamException {
        while (xml.hasNext()) {
            int event = xml.next();
            if (event == XMLStreamConstants.END_ELEMENT) {
                around.pop();
            } else if (event == XMLStreamConstants.START_ELEMENT) {
                if (isTable("table-row") || isTable("shapes") || isTable("tracked-changes")) {
                    OdsRows.skip(xml);
                    continue;
                }
                around.push(declared());
                if (isTable("table")) {
                    return true;
                }
                style();
            }
        }
        return false;
    }

    private Map<String, String> declared() {
        Map<String, String> declared = new HashMap<>();
        for (int i = 0; i < xml.getNamespaceCount(); i++) {
            String prefix = xml.getNamespacePrefix(i);
            String space = xml.getNamespaceURI(i);
            declared.put(prefix == null ? "" : prefix, space == null ? "" : space);
        }
        return declared;
    }

    /** Looks whether a style is one of sheets that aren't shown (OpenDocument 1.3, part 3, 19.641). */
    private void style() {
        if (xml.getLocalName().equals("style")) {
            style = xml.getAttributeValue(STYLE, "name");
        } else if (xml.getLocalName().equals("table-properties")
                && "false".equals(xml.getAttributeValue(TABLE, "display"))
                && style != null) {
            unseen.add(style);
        }
    }

    private boolean isTable(String name) {
        return xml.getLocalName().equals(name) && TABLE.equals(xml.getNamespaceURI());
    }

    /** The name of the sheet that has begun; null where it has none. */
    @Nullable
    String sheetName() {
        return xml.getAttributeValue(TABLE, "name");
    }

    /** Whether the sheet that has begun is hidden. */
    boolean isHidden() {
        return unseen.contains(xml.getAttributeValue(TABLE, "style-name"));
    }

    /** At which UTF-16 unit of the part the sheet begins. */
    long place() {
        return xml.getLocationInfo().getStartingCharOffset();
    }

    /** What prefixes stand for around the sheet that has begun. */
    Map<String, String> prefixes() {
        Map<String, String> prefixes = new HashMap<>();
        around.stream().skip(1).forEach(declared -> declared.forEach(prefixes::putIfAbsent));
        return prefixes;
    }

    /** Whether the part's bytes are UTF-8, as far as the part itself says. */
    boolean isUtf8() {
        return "UTF-8".equalsIgnoreCase(xml.getEncoding());
    }

    @Override
    public void close() throws IOException {
        in.close();
    }
}
