package org.orderlyferry.io;

import java.io.IOException;
import java.nio.file.FileVisitResult;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.SimpleFileVisitor;
import java.nio.file.attribute.BasicFileAttributes;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.apiguardian.api.API;

/**
 * All that is in a folder, with what is known of it as it is listed: where a file system is elsewhere, asking of each file again
 * takes long. Links aren't followed.
 *
 * @param folders the folder itself and those in it
 * @param files what isn't a folder: files, links, and whatever else there is
 */
@API(status = API.Status.INTERNAL)
public record Listing(List<Path> folders, Map<Path, BasicFileAttributes> files) {

    /**
     * Lists a folder.
     *
     * @throws IOException if it, or one in it, can't be read
     */
    public static Listing of(Path folder) throws IOException {
        List<Path> folders = new ArrayList<>();
        Map<Path, BasicFileAttributes> files = new LinkedHashMap<>();
        Files.walkFileTree(folder, new SimpleFileVisitor<>() {
            @Override
            public FileVisitResult preVisitDirectory(Path inside, BasicFileAttributes is) {
                folders.add(inside);
                return FileVisitResult.CONTINUE;
            }

            @Override
            public FileVisitResult visitFile(Path file, BasicFileAttributes is) {
                files.put(file, is);
                return FileVisitResult.CONTINUE;
            }
        });
        return new Listing(folders, files);
    }
}
