package org.orderlyferry.databases.dump;

import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.util.HashMap;
import java.util.HashSet;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Predicate;

/** A dump's statements and data, one behind the other, as its parts are come to. */
abstract class ScriptStream extends InputStream {

    private final DumpToc toc;
    private final Map<Integer, TocEntry> byId = new HashMap<>();
    private final Map<String, TocEntry> byFile = new HashMap<>();
    private final Set<Integer> given = new HashSet<>();
    private InputStream current;
    private InputStream next;
    private boolean last;

    /** Some table's data. */
    record Data(TocEntry entry, InputStream bytes) {}

    ScriptStream(DumpToc toc) {
        this.toc = toc;
        for (TocEntry entry : toc.entries()) {
            byId.put(entry.id(), entry);
            if (entry.isData() && !entry.file().isEmpty()) {
                byFile.put(entry.file(), entry);
            }
        }
        this.current = text("--\n-- PostgreSQL database dump\n--\n", TocEntry::early);
    }

    /** The next table's data; what was left of the one before is passed over. */
    abstract Optional<Data> data() throws IOException;

    final TocEntry entry(int id) throws IOException {
        TocEntry entry = byId.get(id);
        if (entry == null || !entry.isData()) {
            throw new IOException("it has data of something that isn't in its contents; it is damaged");
        }
        return entry;
    }

    final Optional<TocEntry> entry(String file) {
        return Optional.ofNullable(byFile.get(file));
    }

    private static InputStream bytes(String text) {
        return new ByteArrayInputStream(text.getBytes(StandardCharsets.ISO_8859_1));
    }

    private InputStream text(String head, Predicate<TocEntry> which) {
        StringBuilder text = new StringBuilder(head);
        toc.entries().stream().filter(e -> !e.isData() && which.test(e)).forEach(e -> text.append(e.definition())
                .append('\n'));
        return bytes(text.toString());
    }

    private boolean advance() throws IOException {
        if (next != null) {
            current = next;
            next = null;
            return true;
        }
        if (last) {
            return false;
        }
        Optional<Data> data = data();
        if (data.isPresent()) {
            TocEntry entry = data.get().entry();
            if (!given.add(entry.id())) {
                throw new IOException("it has the data of one table twice; it is damaged");
            }
            current = bytes(entry.copy());
            next = data.get().bytes();
            return true;
        }
        last = true;
        for (TocEntry entry : toc.entries()) {
            // a table without records has data of no bytes
            boolean missing = entry.isData() && !given.contains(entry.id());
            if (missing) {
                throw new IOException("it has no data of a table that should have some; it is cut off");
            }
        }
        current = text("\n", e -> !e.early());
        return true;
    }

    @Override
    public int read() throws IOException {
        byte[] one = new byte[1];
        return read(one, 0, 1) < 0 ? -1 : one[0] & 0xff;
    }

    @Override
    public int read(byte[] to, int from, int length) throws IOException {
        if (length == 0) {
            return 0;
        }
        int read = current.read(to, from, length);
        while (read < 0) {
            if (!advance()) {
                return -1;
            }
            read = current.read(to, from, length);
        }
        return read;
    }
}
