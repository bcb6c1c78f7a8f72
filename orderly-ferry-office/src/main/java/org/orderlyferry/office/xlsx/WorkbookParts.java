package org.orderlyferry.office.xlsx;

import java.io.File;
import java.io.IOException;
import java.io.InputStream;
import java.util.Enumeration;
import java.util.HashSet;
import java.util.Locale;
import java.util.Set;
import java.util.TreeSet;
import java.util.function.BiConsumer;
import java.util.regex.Pattern;
import java.util.zip.ZipEntry;
import java.util.zip.ZipFile;
import javax.xml.stream.XMLInputFactory;
import javax.xml.stream.XMLStreamConstants;
import javax.xml.stream.XMLStreamException;
import javax.xml.stream.XMLStreamReader;
import org.orderlyferry.office.sheet.ZipParts;

/**
 * What has to be known of a workbook's parts before a library reads them: that each is what its checksum says, that none
 * grows without end whatever the ZIP file's directory tells of it, whether there are styles, and which day is the first.
 *
 * @param styled whether there is a part of styles, without which the library can't look for formats
 * @param from1904 whether days are counted from January 1, 1904 (ISO/IEC 29500-1, 18.2.28)
 */
record WorkbookParts(boolean styled, boolean from1904) {

    /** Parts that values come from. */
    private static final Pattern NEEDED = Pattern.compile("(sharedstrings|styles|workbook|worksheets/[^/]+)\\.xml$");

    /** The namespace of the strict form (ISO/IEC 29500-1, annex A); the usual one is the transitional form of part 4. */
    private static final String STRICT = "http://purl.oclc.org/ooxml/spreadsheetml/main";

    static WorkbookParts look(File file) throws IOException {
        boolean styled = false;
        boolean from1904 = false;
        Set<String> there = new HashSet<>();
        Set<String> wanted = new TreeSet<>();
        try (ZipFile zip = new ZipFile(file)) {
            ZipParts.mustBeFew(zip);
            Enumeration<? extends ZipEntry> entries = zip.entries();
            while (entries.hasMoreElements()) {
                ZipEntry entry = entries.nextElement();
                ZipParts.mustBeWhole(zip, entry);
                String name = entry.getName().toLowerCase(Locale.ROOT);
                there.add(name);
                if (name.equals("[content_types].xml")) {
                    each(zip, entry, (element, xml) -> {
                        if (element.equals("Override")) {
                            wanted.add(part(xml));
                        }
                    });
                }
                styled |= name.endsWith("styles.xml");
                if (name.endsWith("workbook.xml")) {
                    boolean[] told = {false, false};
                    each(zip, entry, (element, xml) -> {
                        // an extension may have an element of that name, too
                        told[0] |= element.equals("workbookPr") && isTrue(xml.getAttributeValue(null, "date1904"));
                        told[1] |= element.equals("workbook") && STRICT.equals(xml.getNamespaceURI());
                    });
                    if (told[1]) {
                        // whose parts the library doesn't find
                        throw new IOException("it is of the strict form of Office Open XML; a spreadsheet program can"
                                + " save it in the usual one");
                    }
                    from1904 |= told[0];
                }
            }
        }
        wanted.removeIf(part -> !NEEDED.matcher(part).find());
        wanted.removeAll(there);
        if (!wanted.isEmpty()) {
            // the library would take a missing table of texts for one without any
            throw new IOException("its part " + wanted.iterator().next() + " is missing; the file is damaged");
        }
        return new WorkbookParts(styled, from1904);
    }

    /** The part that an Override of the content types is about, as entries are named. */
    private static String part(XMLStreamReader xml) {
        String name = xml.getAttributeValue(null, "PartName");
        return name == null ? "" : name.replaceFirst("^/", "").toLowerCase(Locale.ROOT);
    }

    static boolean isTrue(String told) {
        return "1".equals(told) || "true".equals(told);
    }

    /** Hands on each element, with its name. */
    static void each(ZipFile zip, ZipEntry entry, BiConsumer<String, XMLStreamReader> take) throws IOException {
        XMLInputFactory factory = XMLInputFactory.newInstance();
        factory.setProperty(XMLInputFactory.SUPPORT_DTD, false);
        factory.setProperty(XMLInputFactory.IS_SUPPORTING_EXTERNAL_ENTITIES, false);
        try (InputStream in = zip.getInputStream(entry)) {
            XMLStreamReader xml = factory.createXMLStreamReader(in);
            while (xml.hasNext()) {
                if (xml.next() == XMLStreamConstants.START_ELEMENT) {
                    take.accept(xml.getLocalName(), xml);
                }
            }
        } catch (XMLStreamException e) {
            throw new IOException("its part " + entry.getName() + " isn't XML: " + e.getMessage(), e);
        }
    }
}
