package org.orderlyferry.format.xml;

import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.io.SequenceInputStream;
import java.nio.channels.Channels;
import java.nio.channels.SeekableByteChannel;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.util.ArrayList;
import java.util.Collections;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Stream;
import javax.xml.stream.XMLStreamConstants;
import javax.xml.stream.XMLStreamException;
import org.codehaus.stax2.XMLStreamReader2;
import org.orderlyferry.format.EndingStream;
import org.orderlyferry.format.FileSource;
import org.orderlyferry.format.ForwardingSource;
import org.orderlyferry.format.OpenedFiles;
import org.orderlyferry.io.Utf8Places;
import org.orderlyferry.problem.PlaceException;

/**
 * Where the elements of a document's tables stand, so that each can be read without the others: a document of hundreds of tables would
 * be read hundreds of times otherwise. Only of what is in UTF-8 and declares no type, in which entities might stand for something.
 */
final class TablePlaces implements OpenedFiles.Opened {

    /** With more tables than any database has, a document was made to fill the memory; it is read as it comes. */
    private static final int MOST = 100_000;

    private final String root;
    private final Map<String, Place> places;

    /** From where to where an element stands, in bytes, and on which line it begins. */
    private record Place(long from, long to, long line) {}

    /** An element that was met, in units of UTF-16. */
    private record Met(String name, long from, long to, long line) {}

    private TablePlaces(String root, Map<String, Place> places) {
        this.root = root;
        this.places = places;
    }

    /** Looks through a document that stands where it can be read from any place on. */
    static TablePlaces of(FileSource file) {
        List<Met> all = new ArrayList<>();
        String root = null;
        try (XmlInput input = new XmlInput(file, "")) {
            XMLStreamReader2 xml = (XMLStreamReader2) input.reader();
            boolean plain = true;
            for (int event = input.next(); event != XMLStreamConstants.START_ELEMENT; event = input.next()) {
                plain &= event != XMLStreamConstants.DTD;
            }
            if (plain && "UTF-8".equalsIgnoreCase(xml.getEncoding()) && !"1.1".equals(xml.getVersion())) {
                root = startTag(xml);
            }
            while (input.nextElement()) {
                String name = input.name();
                long from = xml.getLocationInfo().getStartingCharOffset();
                long line = input.line();
                input.skip();
                if (all.size() < MOST) {
                    all.add(new Met(name, from, xml.getLocationInfo().getEndingCharOffset() - 1, line));
                }
            }
            while (input.next() != XMLStreamConstants.END_DOCUMENT) {
                // an error may stand behind the last table
            }
        } catch (XMLStreamException e) {
            throw new PlaceException(file.shown(), "can't be read: " + e.getMessage(), e);
        }
        return root == null || all.size() == MOST
                ? new TablePlaces("", Map.of())
                : new TablePlaces(root, places(file, all));
    }

    /** The root's beginning, with what its prefixes stand for and nothing else. */
    private static String startTag(XMLStreamReader2 xml) {
        StringBuilder tag = new StringBuilder("<around");
        for (int i = 0; i < xml.getNamespaceCount(); i++) {
            String prefix = xml.getNamespacePrefix(i);
            tag.append(prefix == null || prefix.isEmpty() ? " xmlns" : " xmlns:" + prefix)
                    .append("=\"")
                    .append(XmlFields.escaped(String.valueOf(xml.getNamespaceURI(i)))
                            .replace("\"", "&quot;"))
                    .append('"');
        }
        return tag.append('>').toString();
    }

    /** Of elements that stand there once. */
    private static Map<String, Place> places(FileSource file, List<Met> all) {
        try (InputStream in = file.open()) {
            Optional<long[]> starts =
                    Utf8Places.find(in, units(all.stream().map(Met::from)), '<', OutputStream.nullOutputStream());
            if (starts.isEmpty()) {
                return Map.of();
            }
            try (InputStream again = file.open()) {
                Optional<long[]> ends =
                        Utf8Places.find(again, units(all.stream().map(Met::to)), '>', OutputStream.nullOutputStream());
                return ends.isEmpty() ? Map.of() : places(all, starts.get(), ends.get());
            }
        } catch (IOException e) {
            throw new PlaceException(file.shown(), "can't be read: " + e.getMessage(), e);
        }
    }

    private static long[] units(Stream<Long> units) {
        return units.mapToLong(Long::longValue).toArray();
    }

    private static Map<String, Place> places(List<Met> all, long[] starts, long[] ends) {
        Map<String, Place> places = new HashMap<>();
        List<String> several = new ArrayList<>();
        for (int i = 0; i < starts.length; i++) {
            Met met = all.get(i);
            if (places.put(met.name(), new Place(starts[i], ends[i] + 1, met.line())) != null) {
                several.add(met.name());
            }
        }
        several.forEach(places::remove);
        return places;
    }

    /** A document of one table, if it is known where that stands. */
    Optional<FileSource> alone(FileSource file, String table) {
        Place place = places.get(table);
        return place == null ? Optional.empty() : Optional.of(new Alone(file, table, place, root));
    }

    /** An element of a document, inside of one that says what the prefixes stand for. */
    private static final class Alone extends ForwardingSource {

        private static final String END = "</around>";

        private final String table;
        private final Place place;
        private final String root;

        Alone(FileSource file, String table, Place place, String root) {
            super(file);
            this.table = table;
            this.place = place;
            this.root = root;
        }

        @Override
        public long firstLine() {
            return place.line();
        }

        @Override
        public InputStream open() throws IOException {
            SeekableByteChannel channel = Files.newByteChannel(file().seekable().orElseThrow());
            try {
                byte[] start = new byte[("<" + table).getBytes(StandardCharsets.UTF_8).length];
                InputStream in = Channels.newInputStream(channel.position(place.from()));
                int read = in.readNBytes(start, 0, start.length);
                if (channel.size() < place.to() || read < start.length || start[0] != '<') {
                    throw new IOException("it isn't as it was when its tables were looked for");
                }
                return new SequenceInputStream(Collections.enumeration(List.of(
                        new ByteArrayInputStream(root.getBytes(StandardCharsets.UTF_8)),
                        new ByteArrayInputStream(start),
                        new EndingStream(in, place.to() - place.from() - start.length),
                        new ByteArrayInputStream(END.getBytes(StandardCharsets.UTF_8)))));
            } catch (IOException | RuntimeException e) {
                channel.close();
                throw e;
            }
        }
    }

    @Override
    public void close() {
        // places only
    }
}
