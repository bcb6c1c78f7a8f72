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
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.orderlyferry.problem.BrokenSetException;
import org.orderlyferry.problem.PlaceException;

/** A folder as a bag by RFC 8493: which files it has, and what their checksums are. */
final class Bag {

    private static final int LONGEST_TAG = 1024 * 1024;
    private static final int LONGEST_MANIFEST = 256 * 1024 * 1024;

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

    /** Checks that all files are there, none is extra, and each has its checksum. */
    void verify() {
        Map<String, String> tags = manifest(Layout.TAG_MANIFEST);
        check(tags);
        Map<String, String> payload = manifest(Layout.MANIFEST);
        Set<String> extra = payloadFiles();
        extra.removeAll(payload.keySet());
        if (!extra.isEmpty()) {
            throw broken("these files are in it but not in its manifest: " + String.join(", ", extra));
        }
        check(payload);
    }

    /** The checksum of each data file by the manifest, by its path. */
    Map<String, String> payload() {
        return manifest(Layout.MANIFEST);
    }

    /** Data files that are not what the manifest says: those that are missing, those that were changed. */
    List<String> changed() {
        List<String> changed = new ArrayList<>();
        manifest(Layout.MANIFEST).forEach((file, sum) -> {
            Path path = inside(file);
            if (!Files.isRegularFile(path) || !sha256(path).equalsIgnoreCase(sum)) {
                changed.add(file);
            }
        });
        return changed;
    }

    private void check(Map<String, String> manifest) {
        for (String file : manifest.keySet()) {
            if (!Files.isRegularFile(inside(file))) {
                throw broken("the file " + file + " is missing");
            }
        }
        for (Map.Entry<String, String> entry : manifest.entrySet()) {
            String found = sha256(inside(entry.getKey()));
            if (!found.equalsIgnoreCase(entry.getValue())) {
                throw broken("the file " + entry.getKey() + " was changed after the set was made: its SHA-256 is "
                        + found + ", the manifest has " + entry.getValue());
            }
        }
    }

    private Set<String> payloadFiles() {
        Path data = folder.resolve(Layout.DATA);
        if (!Files.isDirectory(data)) {
            throw broken("the folder data is missing");
        }
        try (Stream<Path> files = Files.walk(data)) {
            return files.filter(Files::isRegularFile)
                    .map(f -> folder.relativize(f).toString().replace('\\', '/'))
                    .collect(Collectors.toCollection(TreeSet::new));
        } catch (IOException e) {
            throw new PlaceException(folder.toString(), "can't be listed: " + e.getMessage(), e);
        }
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
            inside(path);
            sums.put(path, parts[0].toLowerCase(Locale.ROOT));
        }
        return sums;
    }

    /** A file of the bag; a path that would leave the bag is refused. */
    Path inside(String path) {
        try {
            Path file = folder.resolve(path).normalize();
            if (!path.startsWith("/") && !path.contains("\\") && file.startsWith(folder.normalize())) {
                if (Files.exists(file) && !file.toRealPath().startsWith(folder.toRealPath())) {
                    throw broken("the file " + path + " is a link that leaves it");
                }
                return file;
            }
        } catch (InvalidPathException e) {
            throw broken("'" + path + "' is no path");
        } catch (IOException e) {
            throw new PlaceException(folder.toString(), "can't be read: " + e.getMessage(), e);
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

    private String sha256(Path file) {
        MessageDigest digest = newSha256();
        byte[] buffer = new byte[128 * 1024];
        try (InputStream in = open(file)) {
            for (int count = in.read(buffer); count >= 0; count = in.read(buffer)) {
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
