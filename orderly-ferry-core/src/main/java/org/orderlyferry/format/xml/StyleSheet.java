package org.orderlyferry.format.xml;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.file.Files;
import java.nio.file.InvalidPathException;
import java.nio.file.Path;
import java.util.Optional;
import javax.xml.XMLConstants;
import javax.xml.stream.XMLStreamConstants;
import javax.xml.stream.XMLStreamException;
import javax.xml.stream.util.StreamReaderDelegate;
import javax.xml.transform.ErrorListener;
import javax.xml.transform.Source;
import javax.xml.transform.SourceLocator;
import javax.xml.transform.Templates;
import javax.xml.transform.Transformer;
import javax.xml.transform.TransformerException;
import javax.xml.transform.TransformerFactory;
import javax.xml.transform.URIResolver;
import javax.xml.transform.stax.StAXSource;
import javax.xml.transform.stream.StreamResult;
import org.orderlyferry.format.FileSettings;
import org.orderlyferry.format.FileSource;
import org.orderlyferry.problem.FerryException;
import org.orderlyferry.problem.MalformedFileException;
import org.orderlyferry.problem.Origin;
import org.orderlyferry.problem.PlaceException;
import org.orderlyferry.problem.UsageException;

/**
 * A style sheet (W3C XSLT 1.0) through which a document goes before it is read, or after it was written. It is run by the
 * JDK with secure processing: it calls no Java, and reads nothing but the document. A document that goes through one is held
 * in memory. Immutable.
 */
final class StyleSheet {

    /** The setting that names it. */
    static final String SETTING = "style-sheet";

    /** What a document may take, before and after; a tree of it takes several times as much. */
    private static final int MOST_BYTES = 64 * 1024 * 1024;

    /** What an event takes in a tree besides its text, about. */
    private static final int EVENT_BYTES = 16;

    private final String shown;
    private final Templates templates;

    private StyleSheet(String shown, Templates templates) {
        this.shown = shown;
        this.templates = templates;
    }

    /**
     * The one that settings name.
     *
     * @throws UsageException if it isn't there, or is none
     */
    static Optional<StyleSheet> of(FileSettings settings) {
        return settings.text(SETTING).map(StyleSheet::read);
    }

    private static StyleSheet read(String name) {
        Listener listener = new Listener();
        try {
            Path path = Path.of(name);
            if (!Files.isRegularFile(path)) {
                throw new UsageException("there is no style sheet " + name);
            }
            if (Files.size(path) > MOST_BYTES) {
                throw tooLarge(name);
            }
            TransformerFactory factory = TransformerFactory.newDefaultInstance();
            factory.setFeature(XMLConstants.FEATURE_SECURE_PROCESSING, true);
            factory.setAttribute(XMLConstants.ACCESS_EXTERNAL_DTD, "");
            factory.setAttribute(XMLConstants.ACCESS_EXTERNAL_STYLESHEET, "");
            factory.setURIResolver(NOTHING);
            factory.setErrorListener(listener);
            try (XmlInput input = new XmlInput(new DocumentBytes(name, name, Files.readAllBytes(path)), "")) {
                return new StyleSheet(name, factory.newTemplates(source(input, name)));
            }
        } catch (IOException e) {
            throw new PlaceException(name, "can't be read: " + e.getMessage(), e);
        } catch (TransformerException | XMLStreamException | InvalidPathException e) {
            throw new UsageException(name + " is no style sheet that can be used: " + listener.first(e), e);
        }
    }

    private static final URIResolver NOTHING = (href, base) -> {
        throw new TransformerException("another document is never read, such as " + href);
    };

    /** A document as it is read when it has gone through. */
    FileSource applied(FileSource file) {
        // what lies beside the file tells of what it was before
        return new DocumentBytes(file.shown(), file.name(), transformed(file));
    }

    /** What is to be written goes through when it is closed, and only then to its end. */
    OutputStream before(OutputStream out, String file) {
        return new Collecting(out, file);
    }

    /** A document as the JDK takes it, event by event, with all that is looked out for while one is read here. */
    private static Source source(XmlInput input, String file) throws XMLStreamException {
        return new StAXSource(new StreamReaderDelegate(input.reader()) {
            private long size;

            @Override
            public int next() {
                int event = plain(input.next());
                boolean text = event == XMLStreamConstants.CHARACTERS || event == XMLStreamConstants.COMMENT;
                size += EVENT_BYTES + (text ? getTextLength() : 0);
                if (size > MOST_BYTES) {
                    throw tooLarge(file);
                }
                return event;
            }

            @Override
            public int getEventType() {
                return plain(super.getEventType());
            }

            /** The JDK passes over text that is marked as it is, and over blanks that a document type calls such. */
            private int plain(int event) {
                return event == XMLStreamConstants.CDATA || event == XMLStreamConstants.SPACE
                        ? XMLStreamConstants.CHARACTERS
                        : event;
            }
        });
    }

    private byte[] transformed(FileSource document) {
        String file = document.shown();
        Listener listener = new Listener();
        Bounded result = new Bounded(file);
        try (XmlInput input = new XmlInput(document, "")) {
            Transformer transformer = templates.newTransformer();
            transformer.setURIResolver(NOTHING);
            transformer.setErrorListener(listener);
            transformer.transform(source(input, file), new StreamResult(result));
            return result.toByteArray();
        } catch (StackOverflowError e) {
            throw new MalformedFileException(
                    new Origin("", file, 1, true), "goes round and round in the style sheet " + shown);
        } catch (TransformerException | XMLStreamException e) {
            for (Throwable cause = e; cause != null; cause = cause.getCause()) {
                if (cause instanceof FerryException ours) {
                    throw ours;
                }
            }
            throw new MalformedFileException(
                    new Origin("", file, 1, true),
                    "doesn't go through the style sheet " + shown + ": " + listener.first(e));
        }
    }

    private static UsageException tooLarge(String file) {
        return new UsageException(file + " is larger than " + MOST_BYTES / (1024 * 1024)
                + " MB, before the style sheet or after it; what goes through one is held in memory");
    }

    /** Keeps what is said first, and prints nothing. */
    private static final class Listener implements ErrorListener {
        private String said = "";

        @Override
        public void warning(TransformerException e) {
            // what matters fails
        }

        @Override
        public void error(TransformerException e) {
            fatalError(e);
        }

        @Override
        public void fatalError(TransformerException e) {
            if (said.isEmpty()) {
                said = told(e);
            }
        }

        String first(Exception e) {
            return said.isEmpty() ? e instanceof TransformerException t ? told(t) : e.getMessage() : said;
        }

        private static String told(TransformerException e) {
            SourceLocator at = e.getLocator();
            String what = e.getMessage() == null
                    ? "it can't be applied"
                    : e.getMessage().replaceAll("\\s+", " ");
            return at == null || at.getLineNumber() < 1 ? what : what + " (line " + at.getLineNumber() + ")";
        }
    }

    /** Bytes up to a bound. */
    private static class Bounded extends ByteArrayOutputStream {
        private final String file;

        Bounded(String file) {
            this.file = file;
        }

        @Override
        public void write(int b) {
            check(1);
            super.write(b);
        }

        @Override
        public void write(byte[] bytes, int from, int length) {
            check(length);
            super.write(bytes, from, length);
        }

        private void check(int more) {
            if (count + (long) more > MOST_BYTES) {
                throw tooLarge(file);
            }
        }
    }

    private final class Collecting extends Bounded {
        private final OutputStream out;
        private final String file;
        private boolean closed;

        Collecting(OutputStream out, String file) {
            super(file);
            this.out = out;
            this.file = file;
        }

        @Override
        public void close() throws IOException {
            if (closed) {
                return;
            }
            closed = true;
            try (out) {
                out.write(transformed(new DocumentBytes(file, file, toByteArray())));
            }
        }
    }
}
