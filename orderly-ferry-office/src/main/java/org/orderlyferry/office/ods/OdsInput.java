package org.orderlyferry.office.ods;

import com.ctc.wstx.api.WstxInputProperties;
import com.ctc.wstx.stax.WstxInputFactory;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.zip.ZipEntry;
import java.util.zip.ZipFile;
import javax.xml.stream.XMLInputFactory;
import javax.xml.stream.XMLStreamConstants;
import javax.xml.stream.XMLStreamException;
import javax.xml.stream.XMLStreamReader;
import org.jspecify.annotations.Nullable;
import org.orderlyferry.format.FileSource;
import org.orderlyferry.format.OnDisk;
import org.orderlyferry.io.Closing;
import org.orderlyferry.office.sheet.SheetInput;
import org.orderlyferry.office.sheet.SheetMarks;
import org.orderlyferry.office.sheet.SheetRows;
import org.orderlyferry.office.sheet.ZipParts;
import org.orderlyferry.problem.MalformedFileException;
import org.orderlyferry.problem.Origin;
import org.orderlyferry.problem.PlaceException;

/** An OpenDocument file to be read. */
final class OdsInput implements SheetInput {

    static final String TABLE = "urn:oasis:names:tc:opendocument:xmlns:table:1.0";
    static final String OFFICE = "urn:oasis:names:tc:opendocument:xmlns:office:1.0";
    private static final String STYLE = "urn:oasis:names:tc:opendocument:xmlns:style:1.0";

    private static final String CONTENT = "content.xml";
    private static final String MANIFEST = "META-INF/manifest.xml";

    private final String shown;
    private final OnDisk file;
    private final ZipFile zip;
    private final Set<String> hidden = new HashSet<>();
    private @Nullable List<String> names;

    OdsInput(FileSource source) {
        this.shown = source.shown();
        OnDisk opened = null;
        ZipFile unpacked = null;
        try {
            opened = new OnDisk(source);
            unpacked = new ZipFile(opened.path().toFile());
            ZipParts.mustBeFew(unpacked);
            ZipEntry type = entry(unpacked, "mimetype");
            try (InputStream in = unpacked.getInputStream(type)) {
                String text = new String(in.readNBytes(200), StandardCharsets.US_ASCII);
                if (!text.startsWith(OdsFormat.MIME_TYPE)) {
                    throw new IOException("it says that it is " + text);
                }
            }
            mustBeOpen(unpacked);
            ZipParts.mustBeWhole(unpacked, entry(unpacked, CONTENT));
            this.file = opened;
            this.zip = unpacked;
        } catch (IOException | RuntimeException e) {
            Closing.after(e, unpacked, opened);
            throw e instanceof RuntimeException runtime ? runtime : failed(e);
        }
    }

    private static ZipEntry entry(ZipFile zip, String name) throws IOException {
        ZipEntry entry = zip.getEntry(name);
        if (entry == null) {
            throw new IOException("its part " + name + " is missing; the file is damaged");
        }
        return entry;
    }

    /** A part that is encrypted looks like one that is damaged. */
    private static void mustBeOpen(ZipFile zip) throws IOException {
        if (zip.getEntry(MANIFEST) == null) {
            return;
        }
        ZipParts.mustBeWhole(zip, zip.getEntry(MANIFEST));
        try (InputStream in = zip.getInputStream(zip.getEntry(MANIFEST))) {
            XMLStreamReader xml = factory().createXMLStreamReader(in);
            while (xml.hasNext()) {
                if (xml.next() == XMLStreamConstants.START_ELEMENT
                        && xml.getLocalName().equals("encryption-data")) {
                    throw new IOException(
                            "it is encrypted; a spreadsheet program that has its password can save it without one");
                }
            }
        } catch (XMLStreamException e) {
            throw new IOException("its part " + MANIFEST + " isn't XML: " + e.getMessage(), e);
        }
    }

    private static XMLInputFactory factory() {
        WstxInputFactory factory = new WstxInputFactory();
        factory.setProperty(XMLInputFactory.SUPPORT_DTD, false);
        factory.setProperty(XMLInputFactory.IS_SUPPORTING_EXTERNAL_ENTITIES, false);
        factory.setProperty(XMLInputFactory.IS_COALESCING, false);
        factory.setProperty(WstxInputProperties.P_MAX_ATTRIBUTE_SIZE, CellText.MOST);
        return factory;
    }

    @Override
    public List<String> sheetNames() {
        if (names == null) {
            List<String> found = new ArrayList<>();
            try (Content content = new Content()) {
                while (content.toSheet()) {
                    String name = content.xml.getAttributeValue(TABLE, "name");
                    found.add(name == null || found.contains(name) ? "sheet " + (found.size() + 1) : name);
                    if (content.unseen.contains(content.xml.getAttributeValue(TABLE, "style-name"))) {
                        hidden.add(found.get(found.size() - 1));
                    }
                }
            }
            names = found;
        }
        return names;
    }

    @Override
    public boolean isHidden(String sheet) {
        return sheetNames().contains(sheet) && hidden.contains(sheet);
    }

    @Override
    public SheetRows rows(String sheet, SheetMarks marks) {
        Content content = new Content();
        try {
            for (int i = sheetNames().indexOf(sheet); i >= 0; i--) {
                content.toSheet();
            }
            return new OdsRows(content.xml, content::close, this::failed, marks);
        } catch (RuntimeException e) {
            content.close();
            throw e;
        }
    }

    /** The part in which the sheets are. */
    private final class Content implements AutoCloseable {

        private final InputStream in;
        private final XMLStreamReader xml;
        /** Styles of sheets that aren't shown, so far. */
        private final Set<String> unseen = new HashSet<>();

        private @Nullable String style;

        Content() {
            InputStream opened = null;
            try {
                opened = zip.getInputStream(entry(zip, CONTENT));
                this.xml = factory().createXMLStreamReader(opened);
                this.in = opened;
            } catch (IOException | XMLStreamException e) {
                OdsInput.close(opened);
                throw failed(e);
            }
        }

        /** Goes to the next sheet; a table inside of one is none. */
        private boolean toSheet() {
            try {
                while (xml.hasNext()) {
                    if (xml.next() == XMLStreamConstants.START_ELEMENT) {
                        if (isTable("table")) {
                            return true;
                        } else if (isTable("table-row") || isTable("shapes") || isTable("tracked-changes")) {
                            OdsRows.skip(xml);
                        } else {
                            style();
                        }
                    }
                }
                return false;
            } catch (XMLStreamException e) {
                throw failed(e);
            }
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

        @Override
        public void close() {
            OdsInput.close(in);
        }
    }

    @Override
    public RuntimeException failed(Exception e) {
        return new MalformedFileException(
                new Origin("", shown, 0, true), "can't be read as a spreadsheet: " + e.getMessage());
    }

    private static void close(@Nullable AutoCloseable... all) {
        for (AutoCloseable one : all) {
            try {
                if (one != null) {
                    one.close();
                }
            } catch (IOException e) {
                throw new PlaceException("", "can't be closed: " + e.getMessage(), e);
            } catch (RuntimeException e) {
                throw e;
            } catch (Exception e) {
                throw new IllegalStateException(e);
            }
        }
    }

    @Override
    public void close() {
        close(zip, file);
    }
}
