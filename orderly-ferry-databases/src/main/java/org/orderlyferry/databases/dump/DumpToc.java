package org.orderlyferry.databases.dump;

import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;

/**
 * A dump's table of contents, as PostgreSQL's tools have written it since version 8.4 (archive versions 1.11 to 1.16): in what order
 * things are made, by which statements, and where their data are.
 *
 * @param form which form the dump has
 * @param packing how its data are compressed
 */
record DumpToc(Form form, Packing packing, List<TocEntry> entries) {

    static final byte[] MAGIC = "PGDMP".getBytes(StandardCharsets.US_ASCII);

    private static final int OLDEST = 11;
    private static final int NEWEST = 16;
    private static final int MOST_ENTRIES = 10_000_000;
    private static final int PRE_DATA = 2;

    /** The forms of dumps that aren't scripts. */
    enum Form {
        CUSTOM,
        TAR,
        DIRECTORY
    }

    /** How data are compressed. */
    enum Packing {
        NONE,
        ZLIB,
        LZ4,
        ZSTD
    }

    /** Reads it; the stream stands behind it then. */
    static DumpToc read(InputStream in) throws IOException {
        if (!Arrays.equals(in.readNBytes(MAGIC.length), MAGIC)) {
            throw new IOException("it isn't a dump of PostgreSQL's");
        }
        TocBytes bytes = new TocBytes(in);
        int major = bytes.octet();
        int version = bytes.octet();
        int revision = bytes.octet();
        if (major != 1 || version < OLDEST || version > NEWEST) {
            throw new IOException("it is of archive version " + major + "." + version + "." + revision
                    + "; known are 1." + OLDEST + " to 1." + NEWEST
                    + ", and PostgreSQL's own tools can make a script of any");
        }
        bytes.intSize(bytes.octet());
        int offsetSize = bytes.octet();
        Form form =
                switch (bytes.octet()) {
                    case 1 -> Form.CUSTOM;
                    case 3 -> Form.TAR;
                    case 5 -> Form.DIRECTORY;
                    default -> throw new IOException("it is of a form that isn't known here");
                };
        Packing packing = packing(bytes, version);
        for (int i = 0; i < 7; i++) {
            // when it was made
            bytes.number();
        }
        for (int i = 0; i < 3; i++) {
            // the database's name, the server's version, and the tool's
            bytes.text();
        }
        int count = bytes.number();
        if (count < 0 || count > MOST_ENTRIES) {
            throw new IOException("it says that it has " + count + " things in it");
        }
        List<TocEntry> entries = new ArrayList<>();
        for (int i = 0; i < count; i++) {
            entries.add(entry(bytes, version, form, offsetSize));
        }
        return new DumpToc(form, packing, entries);
    }

    private static Packing packing(TocBytes bytes, int version) throws IOException {
        if (version < 15) {
            return bytes.number() == 0 ? Packing.NONE : Packing.ZLIB;
        }
        return switch (bytes.octet()) {
            case 0 -> Packing.NONE;
            case 1 -> Packing.ZLIB;
            case 2 -> Packing.LZ4;
            case 3 -> Packing.ZSTD;
            default -> throw new IOException("it is compressed in a way that isn't known here");
        };
    }

    private static TocEntry entry(TocBytes bytes, int version, Form form, int offsetSize) throws IOException {
        int id = bytes.number();
        // whether it has data, and by which numbers the database knew it
        bytes.number();
        bytes.text();
        bytes.text();
        // its name
        bytes.text();
        String kind = bytes.textOrNone();
        int section = bytes.number();
        String definition = bytes.textOrNone();
        // how it is dropped
        bytes.text();
        String copy = bytes.textOrNone();
        // its schema and tablespace
        bytes.text();
        bytes.text();
        if (version >= 14) {
            // how its table is kept
            bytes.text();
        }
        if (version >= 16) {
            bytes.number();
        }
        // its owner, and whether rows have numbers
        bytes.text();
        bytes.text();
        while (bytes.text() != null) {
            // what it depends on
        }
        String file = "";
        if (form == Form.CUSTOM) {
            bytes.skip(1 + offsetSize);
        } else {
            file = bytes.textOrNone();
        }
        if (kind.equals("BLOB METADATA")) {
            // numbers of large objects, a line each: told as the statement that makes one is
            definition = "SELECT pg_catalog.lo_create('0');";
        }
        return new TocEntry(id, kind, section <= PRE_DATA, definition, copy, file);
    }
}
