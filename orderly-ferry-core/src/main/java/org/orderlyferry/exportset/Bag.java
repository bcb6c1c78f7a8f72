package org.orderlyferry.exportset;

import java.io.FilterInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.nio.ByteBuffer;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.InvalidPathException;
import java.nio.file.Path;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.ArrayList;
import java.util.HexFormat;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import org.orderlyferry.io.Abreast;
import org.orderlyferry.io.Listing;
import org.orderlyferry.problem.BrokenSetException;
import org.orderlyferry.problem.Listed;
import org.orderlyferry.problem.PlaceException;

/** A folder as a bag by RFC 8493: which files it has, and what their checksums are. */
final class Bag {

    private static final int LONGEST_TAG = 1024 * 1024;
    private static final int LONGEST_MANIFEST = 256 * 1024 * 1024;

    private static final long BEHIND_A_LINK = -1;

    private final Path folder;

    Bag(Path folder) {
        this.folder = folder;
    }

    static boolean isBag(Path folder) {
        return Files.isRegularFile(folder.resolve(Layout.BAGIT));
    }

    /** Reads {@code bag-info.txt}. */
    Map<String, String> info() {
        Map<String, String> info = new LinkedHashMap<>();
        for (String line : lines(Layout.BAG_INFO)) {
            int colon = line.indexOf(':');
            if (colon > 0) {
                info.put(
                        line.substring(0, colon).strip(),
                        line.substring(colon + 1).strip());
            }
        }
        return info;
    }

    /** Refuses a bag of another version than those known. */
    void checkVersion() {
        List<String> declaration = lines(Layout.BAGIT);
        String first = declaration.isEmpty() ? "" : declaration.get(0).strip();
        if (!first.equals("BagIt-Version: 1.0") && !first.equals("BagIt-Version: 0.97")) {
            throw broken("its bagit.txt begins with '" + first + "'; known are BagIt-Version: 1.0 and 0.97");
        }
        String version = info().get(Layout.VERSION_LABEL);
        if (version == null) {
            throw broken("its " + Layout.BAG_INFO + " has no " + Layout.VERSION_LABEL + ", so it isn't an export set");
        }
        if (!version.equals(Layout.VERSION)) {
            throw broken("it has the format version " + version + ", and this program knows " + Layout.VERSION
                    + "; use a newer Orderly Ferry");
        }
    }

    /** A text that is another one for a bag with other files: the checksums of its descriptions and of its manifest. */
    String identity() {
        return new java.util.TreeMap<>(manifest(Layout.TAG_MANIFEST)).toString();
    }

    /**
     * Checks that all files are there, none is extra, and each has its checksum.
     *
     * @param check asked again and again whether to go on, by several threads
     */
    void verify(Runnable check) {
        Map<String, Long> there = complete(check);
        mustHold(payload(), there, check);
    }

    /**
     * Checks that all files are there, none is extra, and data files have as many bytes as they had: what is in those isn't read.
     *
     * @param sizes of data files, as far as they are known
     */
    void verifyFiles(Map<String, Long> sizes) {
        Map<String, Long> there = complete(() -> {});
        sizes.forEach((file, size) -> {
            long now = there.getOrDefault(file, BEHIND_A_LINK);
            if (now != BEHIND_A_LINK && now != size) {
                throw broken("the file " + file + " was changed after the set was made: it has " + now
                        + " bytes, and had " + size);
            }
        });
    }

    /** The checksum of each data file by the manifest, by its path. */
    Map<String, String> payload() {
        return manifest(Layout.MANIFEST);
    }

    /** Data files that are not what the manifest says: those that are missing, those that were changed. */
    List<String> changed(Runnable check) {
        List<String> changed = new ArrayList<>();
        manifest(Layout.MANIFEST).forEach((file, sum) -> {
            Path path = inside(file);
            if (!Files.isRegularFile(path) || !sha256(path, check).equalsIgnoreCase(sum)) {
                changed.add(file);
            }
        });
        return changed;
    }

    /** Its files, of which none is missing and none extra; those that describe it are as they were. */
    private Map<String, Long> complete(Runnable check) {
        Map<String, Long> there = listed();
        Map<String, String> tags = manifest(Layout.TAG_MANIFEST);
        mustBeThere(tags.keySet(), there);
        mustHold(tags, there, check);
        Set<String> payload = payload().keySet();
        mustBeThere(payload, there);
        mustBeAll(payload, there);
        return there;
    }

    private void mustBeThere(Set<String> named, Map<String, Long> there) {
        for (String file : named) {
            if (!there.containsKey(file) && !Files.isRegularFile(inside(file))) {
                throw broken("the file " + file + " is missing");
            }
        }
    }

    private void mustBeAll(Set<String> payload, Map<String, Long> there) {
        if (!Files.isDirectory(folder.resolve(Layout.DATA))) {
            throw broken("the folder data is missing");
        }
        Set<String> extra = new TreeSet<>(there.keySet());
        extra.removeIf(file -> !file.startsWith(Layout.DATA + "/"));
        extra.removeAll(payload);
        if (!extra.isEmpty()) {
            throw broken("these files are in it but not in its manifest: " + Listed.of(extra));
        }
    }

    private void mustHold(Map<String, String> sums, Map<String, Long> there, Runnable check) {
        Map<Path, String> names = new LinkedHashMap<>();
        sums.keySet().forEach(file -> {
            boolean plain = there.getOrDefault(file, BEHIND_A_LINK) != BEHIND_A_LINK;
            names.put(plain ? within(file) : inside(file), file);
        });
        try {
            // others may be at work on what this reads
            int near = Math.max(1, Runtime.getRuntime().availableProcessors() / 2);
            Abreast.each(List.copyOf(names.keySet()), near, path -> {
                String file = names.get(path);
                String found = sha256(path, check);
                if (!found.equalsIgnoreCase(sums.get(file))) {
                    throw broken("the file " + file + " was changed after the set was made: its SHA-256 is " + found
                            + ", the manifest has " + sums.get(file));
                }
            });
        } catch (IOException e) {
            throw new PlaceException(folder.toString(), "can't be read: " + e.getMessage(), e);
        }
    }

    /** The sizes of all of its files, by their paths; of those that are links, none. */
    Map<String, Long> listed() {
        Map<String, Long> all = new LinkedHashMap<>();
        try {
            Listing.of(folder).files().forEach((file, is) -> {
                String path = folder.relativize(file).toString().replace('\\', '/');
                if (is.isRegularFile()) {
                    all.put(path, is.size());
                } else if (Files.isRegularFile(file)) {
                    all.put(path, BEHIND_A_LINK);
                }
            });
        } catch (IOException e) {
            throw new PlaceException(folder.toString(), "can't be listed: " + e.getMessage(), e);
        }
        return all;
    }

    private Map<String, String> manifest(String name) {
        Map<String, String> sums = new LinkedHashMap<>();
        for (String line : lines(name)) {
            if (line.isBlank()) {
                continue;
            }
            String[] parts = line.strip().split("\\s+", 2);
            if (parts.length != 2 || parts[0].length() != 64) {
                throw broken("a line of " + name + " is no checksum and path: " + line);
            }
            String path = parts[1].replace("%0A", "\n").replace("%0D", "\r").replace("%25", "%");
            within(path);
            sums.put(path, parts[0].toLowerCase(Locale.ROOT));
        }
        return sums;
    }

    /** A file of the bag; a path that would leave the bag is refused, and so is a link. */
    Path inside(String path) {
        Path file = within(path);
        try {
            if (Files.exists(file) && !file.toRealPath().startsWith(folder.toRealPath())) {
                throw broken("the file " + path + " is a link that leaves it");
            }
            return file;
        } catch (IOException e) {
            throw new PlaceException(folder.toString(), "can't be read: " + e.getMessage(), e);
        }
    }

    /** Where a file of the bag would be; a path that would leave the bag is refused. Links are for who opens it to look at. */
    Path within(String path) {
        try {
            Path file = folder.resolve(path).normalize();
            if (!path.startsWith("/") && !path.contains("\\") && file.startsWith(folder.normalize())) {
                return file;
            }
        } catch (InvalidPathException e) {
            throw broken("'" + path + "' is no path");
        }
        throw broken("the path " + path + " leaves it");
    }

    private List<String> lines(String name) {
        Path file = folder.resolve(name);
        if (!Files.isRegularFile(file)) {
            throw broken("the file " + name + " is missing");
        }
        try {
            long most = name.equals(Layout.BAGIT) || name.equals(Layout.BAG_INFO) ? LONGEST_TAG : LONGEST_MANIFEST;
            try (InputStream in = Files.newInputStream(file)) {
                // the size that a ZIP file's directory tells may be another
                byte[] bytes = in.readNBytes((int) most + 1);
                if (bytes.length > most) {
                    throw broken("the file " + name + " has more than " + most + " bytes");
                }
                return StandardCharsets.UTF_8
                        .newDecoder()
                        .decode(ByteBuffer.wrap(bytes))
                        .toString()
                        .lines()
                        .toList();
            }
        } catch (IOException e) {
            throw broken("the file " + name + " can't be read: " + e.getMessage());
        }
    }

    private BrokenSetException broken(String what) {
        return new BrokenSetException(folder.toString(), what);
    }

    private String sha256(Path file, Runnable check) {
        MessageDigest digest = newSha256();
        byte[] buffer = new byte[128 * 1024];
        try (InputStream in = open(file)) {
            for (int count = in.read(buffer); count >= 0; count = in.read(buffer)) {
                check.run();
                digest.update(buffer, 0, count);
            }
        } catch (IOException e) {
            throw new PlaceException(file.toString(), "can't be read: " + e.getMessage(), e);
        }
        return HexFormat.of().formatHex(digest.digest());
    }

    /** A file's bytes; more than its size are none that a set has: a ZIP file's directory may lie. */
    static InputStream open(Path file) throws IOException {
        long size = Files.size(file);
        return new FilterInputStream(Files.newInputStream(file)) {
            private long read;

            @Override
            public int read() throws IOException {
                int b = super.read();
                count(b < 0 ? 0 : 1);
                return b;
            }

            @Override
            public int read(byte[] to, int from, int length) throws IOException {
                int count = super.read(to, from, length);
                count(count);
                return count;
            }

            private void count(int more) throws IOException {
                read += Math.max(0, more);
                if (read > size) {
                    throw new IOException(file
                            + " has more bytes than it is told to have; it looks as if it was made to" + " do harm");
                }
            }
        };
    }

    static MessageDigest newSha256() {
        try {
            return MessageDigest.getInstance("SHA-256");
        } catch (NoSuchAlgorithmException e) {
            throw new IllegalStateException("every Java platform has SHA-256", e);
        }
    }

    @Override
    public String toString() {
        return folder.toString();
    }
}
