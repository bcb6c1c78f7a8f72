package org.orderlyferry.format.xml;

import com.ctc.wstx.api.WstxInputProperties;
import com.ctc.wstx.stax.WstxInputFactory;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.util.regex.Pattern;
import javax.xml.stream.Location;
import javax.xml.stream.XMLInputFactory;
import javax.xml.stream.XMLResolver;
import javax.xml.stream.XMLStreamConstants;
import javax.xml.stream.XMLStreamException;
import javax.xml.stream.XMLStreamReader;
import org.codehaus.stax2.XMLInputFactory2;
import org.codehaus.stax2.XMLStreamReader2;
import org.orderlyferry.format.FileSource;
import org.orderlyferry.problem.MalformedFileException;
import org.orderlyferry.problem.Origin;
import org.orderlyferry.problem.PlaceException;

/**
 * A document, event by event. Nothing outside of it is ever read, and no entity but XML's own five stands for anything: a
 * document type declaration is refused.
 */
final class XmlInput implements AutoCloseable {

    private static final int DEEPEST = 500;
    private static final int MOST_EXPANSIONS = 20_000;
    private static final int DEEPEST_ENTITY = 8;
    /** With so long a declaration at most, no number of expansions that is allowed takes much. */
    private static final int LONGEST_DECLARATION = 16 * 1024;

    private static final Pattern EXTERNAL = Pattern.compile("<!ENTITY\\s+(%\\s+)?\\S+\\s+(SYSTEM|PUBLIC)\\s");

    /** Whatever another file would hold, nothing is read of it. */
    private static final XMLResolver NOTHING =
            (publicId, systemId, base, name) -> new ByteArrayInputStream(new byte[0]);

    private final InputStream in;
    private final String shown;
    private final String table;
    private final long linesBefore;
    private final XMLStreamReader reader;
    private boolean ended;

    XmlInput(FileSource file, String table) {
        this.shown = file.shown();
        this.table = table;
        this.linesBefore = file.firstLine() - 1;
        try {
            this.in = file.open();
        } catch (IOException e) {
            throw new PlaceException(shown, "can't be read: " + e.getMessage(), e);
        }
        try {
            this.reader = factory().createXMLStreamReader(in);
        } catch (XMLStreamException e) {
            throw failed(e);
        }
    }

    private static XMLInputFactory factory() {
        WstxInputFactory factory = new WstxInputFactory();
        // most real documents declare a type; what it declares is read only so far as it stands in the file itself
        factory.setProperty(XMLInputFactory.SUPPORT_DTD, true);
        factory.setProperty(XMLInputFactory.IS_VALIDATING, false);
        factory.setProperty(XMLInputFactory.IS_SUPPORTING_EXTERNAL_ENTITIES, false);
        factory.setProperty(WstxInputProperties.P_DTD_RESOLVER, NOTHING);
        factory.setProperty(WstxInputProperties.P_ENTITY_RESOLVER, NOTHING);
        factory.setProperty(WstxInputProperties.P_MAX_ENTITY_COUNT, MOST_EXPANSIONS);
        factory.setProperty(WstxInputProperties.P_MAX_ENTITY_DEPTH, DEEPEST_ENTITY);
        factory.setProperty(XMLInputFactory.IS_NAMESPACE_AWARE, true);
        factory.setProperty(XMLInputFactory.IS_COALESCING, false);
        factory.setProperty(XMLInputFactory2.P_LAZY_PARSING, false);
        factory.setProperty(WstxInputProperties.P_MAX_ELEMENT_DEPTH, DEEPEST);
        factory.setProperty(WstxInputProperties.P_MAX_ATTRIBUTE_SIZE, Integer.MAX_VALUE);
        return factory;
    }

    XMLStreamReader reader() {
        return reader;
    }

    /** The next event; {@link XMLStreamConstants#END_DOCUMENT} at the end, again and again. */
    int next() {
        try {
            if (ended) {
                return XMLStreamConstants.END_DOCUMENT;
            }
            int event = reader.next();
            ended = event == XMLStreamConstants.END_DOCUMENT;
            if (event == XMLStreamConstants.DTD) {
                declaration();
            }
            return event;
        } catch (XMLStreamException e) {
            throw failed(e);
        }
    }

    private void declaration() throws XMLStreamException {
        String declared = reader instanceof XMLStreamReader2 more && more.getDTDInfo() != null
                ? String.valueOf(more.getDTDInfo().getDTDInternalSubset())
                : String.valueOf(reader.getText());
        if (declared.length() > LONGEST_DECLARATION) {
            throw new MalformedFileException(
                    origin(line()),
                    "has a document type declaration of more than " + LONGEST_DECLARATION
                            + " characters; it looks as if it was made to do harm");
        }
        if (EXTERNAL.matcher(declared).find()) {
            throw new MalformedFileException(
                    origin(line()), "its document type declaration names entities in other files, which aren't read");
        }
    }

    /** Goes to the next element that begins, or to the end of the one around it; true for one that begins. */
    boolean nextElement() {
        while (true) {
            int event = next();
            if (event == XMLStreamConstants.START_ELEMENT) {
                return true;
            }
            if (event == XMLStreamConstants.END_ELEMENT || event == XMLStreamConstants.END_DOCUMENT) {
                return false;
            }
        }
    }

    /** Goes behind the end of the element that has begun. */
    void skip() {
        int depth = 1;
        while (depth > 0) {
            int event = next();
            depth += event == XMLStreamConstants.START_ELEMENT ? 1 : event == XMLStreamConstants.END_ELEMENT ? -1 : 0;
        }
    }

    String name() {
        return reader.getLocalName();
    }

    long line() {
        return linesBefore + reader.getLocation().getLineNumber();
    }

    Origin origin(long line) {
        return new Origin(table, shown, line, true);
    }

    RuntimeException failed(XMLStreamException e) {
        Throwable cause = e.getNestedException();
        if (cause instanceof IOException && !(cause instanceof java.io.CharConversionException)) {
            return new PlaceException(shown, "can't be read: " + cause.getMessage(), e);
        }
        Location at = e.getLocation();
        String message = String.valueOf(e.getMessage()).replaceFirst("(?s)\\s+at \\[row.*", "");
        return new MalformedFileException(
                origin(at != null ? linesBefore + at.getLineNumber() : reader == null ? 1 : line()),
                "isn't XML" + (at == null ? "" : " at character " + at.getColumnNumber() + " of the line") + ": "
                        + message);
    }

    @Override
    public void close() {
        try {
            reader.close();
            in.close();
        } catch (XMLStreamException | IOException e) {
            throw new PlaceException(shown, "can't be closed: " + e.getMessage(), e);
        }
    }
}
