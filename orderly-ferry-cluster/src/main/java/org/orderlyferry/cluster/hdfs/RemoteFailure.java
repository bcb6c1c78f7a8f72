package org.orderlyferry.cluster.hdfs;

import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.io.IOException;
import java.nio.file.AccessDeniedException;
import java.nio.file.DirectoryNotEmptyException;
import java.nio.file.FileAlreadyExistsException;
import java.nio.file.FileSystemException;
import java.nio.file.NoSuchFileException;
import java.util.Set;

/**
 * What a server has answered instead of doing as it was asked.
 *
 * @param status the answer's HTTP status
 * @param kind the failure's name; empty where the answer isn't one of WebHDFS
 * @param message its first line
 */
record RemoteFailure(int status, String kind, String message) {

    private static final ObjectMapper JSON = new ObjectMapper();
    private static final int LONGEST = 300;
    /** Of a server that isn't ready, or isn't the one that decides. */
    private static final Set<String> PASSING =
            Set.of("StandbyException", "RetriableException", "SafeModeException", "ServerTooBusyException");

    static RemoteFailure of(int status, byte[] body) {
        try {
            JsonNode node = JSON.readTree(body).path("RemoteException");
            if (!node.isMissingNode()) {
                return new RemoteFailure(
                        status,
                        node.path("exception").asText(),
                        line(node.path("message").asText()));
            }
        } catch (JsonProcessingException e) {
            // not from WebHDFS, and told as it is
            return new RemoteFailure(status, "", line(new String(body, java.nio.charset.StandardCharsets.UTF_8)));
        } catch (IOException e) {
            throw new IllegalStateException("bytes in memory can be read", e);
        }
        return new RemoteFailure(status, "", "");
    }

    /** Servers send whole stack traces. */
    private static String line(String text) {
        String first = text.strip().lines().findFirst().orElse("").replaceAll("\\p{Cntrl}", " ");
        return first.length() > LONGEST ? first.substring(0, LONGEST) + "…" : first;
    }

    /** Whether another try, or another server, may do better. */
    boolean isPassing() {
        return PASSING.contains(kind) || kind.isEmpty() && (status == 429 || status >= 500);
    }

    /** The failure as Java's file systems have it. */
    FileSystemException exception(String path) {
        return switch (kind) {
            case "FileNotFoundException" -> new NoSuchFileException(path);
            case "FileAlreadyExistsException" -> new FileAlreadyExistsException(path);
            case "PathIsNotEmptyDirectoryException" -> new DirectoryNotEmptyException(path);
            case "AccessControlException", "SecurityException" -> new AccessDeniedException(path, null, message);
            default -> new FileSystemException(path, null, reason());
        };
    }

    private String reason() {
        if (message.contains("Hadoop IPC port")) {
            return "at this port the name node speaks its own protocol; the address needs the port of WebHDFS, usually 9870";
        }
        if (kind.isEmpty()) {
            return "the server answered with HTTP status " + status + (message.isEmpty() ? "" : ": " + message);
        }
        return message.isEmpty() ? kind : message;
    }
}
