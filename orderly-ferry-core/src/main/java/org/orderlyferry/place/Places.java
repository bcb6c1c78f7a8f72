package org.orderlyferry.place;

import java.io.IOException;
import java.nio.file.FileSystemException;
import java.nio.file.FileSystems;
import java.nio.file.Files;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.ServiceLoader;
import java.util.Set;
import java.util.TreeSet;
import java.util.stream.Collectors;
import org.orderlyferry.format.FileFormats;
import org.orderlyferry.problem.PlaceException;
import org.orderlyferry.problem.UsageException;
import org.slf4j.LoggerFactory;

/** The way to places: finds out what an address is and opens it. */
public final class Places {

    private Places() {}

    /** Opens a place to read from. */
    public static Place open(String address) {
        return open(PlaceAddress.of(address), OpenOptions.DEFAULT);
    }

    /** Opens a file, a folder or a database's file to read from. */
    public static Place open(Path path) {
        return open(PlaceAddress.of(path), OpenOptions.DEFAULT);
    }

    /**
     * Opens a place to read from.
     *
     * @throws UsageException if no kind of place has such an address
     * @throws PlaceException if the place is there but can't be opened
     */
    public static Place open(PlaceAddress address, OpenOptions options) {
        mustAnswer(address);
        for (PlaceProvider provider : providers(address)) {
            Optional<Place> place = provider.open(address, options);
            if (place.isPresent()) {
                return place.get();
            }
        }
        throw unknown(address);
    }

    /** Opens a place to write to, making it where it isn't there yet. */
    public static TargetPlace openTarget(String address) {
        return openTarget(PlaceAddress.of(address), OpenOptions.DEFAULT);
    }

    /** Opens a file or a database's file to write to, making it where it isn't there yet. */
    public static TargetPlace openTarget(Path path) {
        return openTarget(PlaceAddress.of(path), OpenOptions.DEFAULT);
    }

    /** Opens a place to write to, making it where it isn't there yet. */
    public static TargetPlace openTarget(PlaceAddress address, OpenOptions options) {
        mustAnswer(address);
        for (PlaceProvider provider : providers(address)) {
            Optional<TargetPlace> place = provider.openTarget(address, options);
            if (place.isPresent()) {
                return place.get();
            }
        }
        throw unknown(address);
    }

    /** Where a file system is elsewhere, what can't be asked for must not be taken for what isn't there. */
    private static void mustAnswer(PlaceAddress address) {
        boolean path = address.scheme().equals(PlaceAddress.FILE);
        if (!path || address.path().getFileSystem().equals(FileSystems.getDefault())) {
            return;
        }
        try {
            address.path().getFileSystem().provider().checkAccess(address.path());
        } catch (NoSuchFileException e) {
            LoggerFactory.getLogger(Places.class).debug("{} isn't there yet", address, e);
        } catch (IOException e) {
            boolean told = e instanceof FileSystemException failure && failure.getReason() != null;
            throw new PlaceException(
                    address.toString(),
                    "can't be asked for: " + (told ? ((FileSystemException) e).getReason() : e.getMessage()),
                    e);
        }
    }

    private static List<PlaceProvider> providers(PlaceAddress address) {
        String scheme = address.scheme();
        List<PlaceProvider> providers = new ArrayList<>();
        Set<String> known = new TreeSet<>();
        for (PlaceProvider provider : ServiceLoader.load(PlaceProvider.class)) {
            known.addAll(provider.schemes());
            if (provider.schemes().contains(scheme)) {
                providers.add(provider);
            }
        }
        if (providers.isEmpty()) {
            throw new UsageException("there is no kind of place whose addresses begin with " + scheme
                    + ": here; there are paths, and "
                    + known.stream()
                            .filter(s -> !s.equals(PlaceAddress.FILE))
                            .map(s -> s + ":")
                            .collect(Collectors.joining(", ")));
        }
        return providers;
    }

    private static RuntimeException unknown(PlaceAddress address) {
        if (address.isJdbc()) {
            return new UsageException("there is no driver for " + address
                    + "; the URL begins with jdbc: and one of the systems that ferry --help names");
        }
        Path name = address.path().getFileName();
        Optional<String> elsewhere = name == null ? Optional.empty() : FileFormats.elsewhere(name.toString());
        if (elsewhere.isPresent()) {
            return new UsageException(address + ": " + elsewhere.get());
        }
        if (!Files.exists(address.path())) {
            return new PlaceException(address.toString(), "there is no such file or folder", null);
        }
        return new UsageException(address + " is neither an export set, nor a CSV file, nor a database that is known"
                + " here; a database file can be given as a JDBC URL");
    }
}
