package org.orderlyferry.exportset;

/** Where things stand in an export set. */
final class Layout {

    static final String DATA = "data";
    static final String DEFINITIONS = "definitions.json";
    static final String TABLE_DEFINITIONS = "definitions";
    static final String TALLIES = "tallies.json";
    static final String BAGIT = "bagit.txt";
    static final String BAG_INFO = "bag-info.txt";
    static final String MANIFEST = "manifest-sha256.txt";
    static final String TAG_MANIFEST = "tagmanifest-sha256.txt";

    /** The version of this layout, in {@link #BAG_INFO}; a reader refuses one that it doesn't know. */
    static final String VERSION_LABEL = "Export-Set-Version";

    static final String VERSION = "1";

    private Layout() {}
}
