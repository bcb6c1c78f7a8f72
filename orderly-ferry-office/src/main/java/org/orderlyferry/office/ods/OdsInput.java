package org.orderlyferry.office.ods;

import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.zip.ZipEntry;
import java.util.zip.ZipFile;
import javax.xml.stream.XMLStreamConstants;
import javax.xml.stream.XMLStreamException;
import javax.xml.stream.XMLStreamReader;
import org.jspecify.annotations.Nullable;
import org.orderlyferry.format.FileSource;
import org.orderlyferry.format.OnDisk;
import org.orderlyferry.io.Closing;
import org.orderlyferry.model.FreeNames;
import org.orderlyferry.office.sheet.SheetInput;
import org.orderlyferry.office.sheet.SheetMarks;
import org.orderlyferry.office.sheet.SheetRows;
import org.orderlyferry.office.sheet.UnpackedPart;
import org.orderlyferry.office.sheet.ZipParts;
import org.orderlyferry.problem.MalformedFileException;
import org.orderlyferry.problem.Origin;
import org.orderlyferry.problem.PlaceException;

/** An OpenDocument file to be read. */
final class OdsInput implements SheetInput {

    static final String OFFICE = "urn:oasis:names:tc:opendocument:xmlns:office:1.0";

    private static final String CONTENT = "content.xml";
    private static final String MANIFEST = "META-INF/manifest.xml";

    private final String shown;
    private final OnDisk file;
    private final ZipFile zip;
    private final Set<String> hidden = new HashSet<>();
    private @Nullable List<String> names;
    /** Null where there are too few sheets to need it, or the part doesn't allow it. */
    private @Nullable SheetPlaces places;

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
            XMLStreamReader xml = OdsContent.factory().createXMLStreamReader(in);
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

    @Override
    public List<String> sheetNames() {
        if (names == null) {
            List<String> found = new ArrayList<>();
            FreeNames free = new FreeNames();
            List<Long> places = new ArrayList<>();
            Set<Map<String, String>> prefixes = new HashSet<>();
            boolean utf8 = true;
            try (OdsContent content = content()) {
                while (content.toSheet()) {
                    String name = content.sheetName();
                    String other = "sheet " + (found.size() + 1);
                    found.add(free.give(
                            name == null ? other : name, number -> number == 2 ? other : other + " " + number));
                    if (content.isHidden()) {
                        hidden.add(found.get(found.size() - 1));
                    }
                    places.add(content.place());
                    prefixes.add(content.prefixes());
                    utf8 &= content.isUtf8();
                }
            } catch (IOException | XMLStreamException e) {
                throw failed(e);
            }
            if (found.size() >= UnpackedPart.MANY && utf8 && prefixes.size() == 1) {
                unpack(places, prefixes.iterator().next());
            }
            names = found;
        }
        return names;
    }

    private void unpack(List<Long> units, Map<String, String> prefixes) {
        try (InputStream in = zip.getInputStream(entry(zip, CONTENT))) {
            places = SheetPlaces.of(
                            in, units.stream().mapToLong(Long::longValue).toArray(), prefixes)
                    .orElse(null);
        } catch (IOException e) {
            throw failed(e);
        }
    }

    private OdsContent content() throws IOException, XMLStreamException {
        return new OdsContent(zip.getInputStream(entry(zip, CONTENT)));
    }

    @Override
    public boolean isHidden(String sheet) {
        return sheetNames().contains(sheet) && hidden.contains(sheet);
    }

    @Override
    public SheetRows rows(String sheet, SheetMarks marks) {
        int at = sheetNames().indexOf(sheet);
        OdsContent content = null;
        try {
            content = places == null ? content() : new OdsContent(places.from(at));
            for (int i = places == null ? at : 0; i >= 0; i--) {
                content.toSheet();
            }
            OdsContent opened = content;
            return new OdsRows(opened.xml(), () -> close(opened), this::failed, marks);
        } catch (IOException | XMLStreamException | RuntimeException e) {
            Closing.after(e, content);
            throw e instanceof RuntimeException runtime ? runtime : failed(e);
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
        close(places, zip, file);
    }
}
