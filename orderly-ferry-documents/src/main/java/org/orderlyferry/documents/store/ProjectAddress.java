package org.orderlyferry.documents.store;

import java.net.URI;
import java.net.URLDecoder;
import java.net.URLEncoder;
import java.nio.charset.StandardCharsets;
import java.nio.file.InvalidPathException;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.orderlyferry.place.PlaceAddress;
import org.orderlyferry.place.Secrets;
import org.orderlyferry.problem.UsageException;

/**
 * Where a project is: {@code store://host:port/project?key=FILE}. Texts go in the clear to this machine alone, and over TLS to any
 * other.
 *
 * @param root the address of the service, such as {@code http://127.0.0.1:8080}
 * @param key the file with the key, whose content is never shown
 */
record ProjectAddress(String shown, URI root, String project, Path key) {

    private static final Set<String> HERE = Set.of("127.0.0.1", "localhost", "[::1]");

    static ProjectAddress of(PlaceAddress address, Secrets secrets) {
        String shown = address.toString();
        URI uri;
        try {
            uri = URI.create(address.opened(secrets));
        } catch (IllegalArgumentException e) {
            // its message would show what was filled in
            throw new UsageException(shown + " isn't an address: store://HOST:PORT/PROJECT?key=FILE");
        }
        String project = uri.getPath() == null ? "" : uri.getPath().replaceFirst("^/", "");
        if (uri.getHost() == null || project.isEmpty() || project.contains("/")) {
            throw new UsageException(shown + " names no project: store://HOST:PORT/PROJECT?key=FILE");
        }
        if (uri.getUserInfo() != null) {
            throw new UsageException(shown + ": a store takes no user and password, but a key file (?key=FILE)");
        }
        String scheme = HERE.contains(uri.getHost()) ? "http://" : "https://";
        return new ProjectAddress(
                shown,
                URI.create(scheme + uri.getHost() + (uri.getPort() < 0 ? "" : ":" + uri.getPort())),
                project,
                key(shown, uri.getRawQuery()));
    }

    private static Path key(String shown, String query) {
        String file = "";
        for (String parameter : query == null ? new String[0] : query.split("&")) {
            String[] sides = parameter.split("=", 2);
            if (!sides[0].equals("key") || sides.length < 2) {
                throw new UsageException(shown + ": there is no parameter " + sides[0] + "; there is key");
            }
            file = URLDecoder.decode(sides[1].replace("+", "%2B"), StandardCharsets.UTF_8);
        }
        if (file.isEmpty()) {
            throw new UsageException(shown + " names no key file: ?key=FILE");
        }
        try {
            return Path.of(file);
        } catch (InvalidPathException e) {
            throw new UsageException(shown + ": the key file's name is no path", e);
        }
    }

    /** An address below the project. */
    URI below(String... parts) {
        String path = Stream.concat(Stream.of("projects", project), Arrays.stream(parts))
                .map(p -> URLEncoder.encode(p, StandardCharsets.UTF_8).replace("+", "%20"))
                .collect(Collectors.joining("/", "/", ""));
        return root.resolve(path);
    }
}
