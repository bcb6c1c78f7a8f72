package org.orderlyferry.format.xml;

import com.ctc.wstx.api.WstxInputProperties;
import com.ctc.wstx.stax.WstxInputFactory;
import java.io.IOException;
import java.io.InputStream;
import javax.xml.stream.Location;
import javax.xml.stream.XMLInputFactory;
import javax.xml.stream.XMLStreamConstants;
import javax.xml.stream.XMLStreamException;
import javax.xml.stream.XMLStreamReader;
import org.codehaus.stax2.XMLInputFactory2;
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

    private final InputStream in;
    private final String shown;
    private final String table;
    private final XMLStreamReader reader;
    private boolean ended;

    XmlInput(FileSource file, String table) {
        this.shown = file.shown();
        this.table = table;
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
        factory.setProperty(XMLInputFactory.SUPPORT_DTD, false);
        factory.setProperty(XMLInputFactory.IS_SUPPORTING_EXTERNAL_ENTITIES, false);
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
                throw new MalformedFileException(
                        origin(line()),
                        "a document type declaration isn't read: it may hold entities that name other files, or that"
                                + " grow without end");
            }
            return event;
        } catch (XMLStreamException e) {
            throw failed(e);
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
        return reader.getLocation().getLineNumber();
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
                origin(at == null ? line() : at.getLineNumber()),
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
