package org.orderlyferry.cluster.hdfs;

import java.io.IOException;
import java.nio.file.DirectoryIteratorException;
import java.nio.file.DirectoryStream;
import java.nio.file.Path;
import java.util.ArrayDeque;
import java.util.Iterator;
import java.util.NoSuchElementException;
import java.util.Queue;

/** A folder's entries, asked for page by page. */
final class HdfsEntries implements DirectoryStream<Path>, Iterator<Path> {

    private final WebHdfs client;
    private final HdfsPath folder;
    private final Filter<? super Path> filter;
    private final Queue<HdfsPath> ready = new ArrayDeque<>();
    private String last = "";
    private boolean isMore = true;

    HdfsEntries(WebHdfs client, HdfsPath folder, Filter<? super Path> filter) {
        this.client = client;
        this.folder = folder;
        this.filter = filter;
    }

    @Override
    public Iterator<Path> iterator() {
        return this;
    }

    @Override
    public boolean hasNext() {
        try {
            while (ready.isEmpty() && isMore) {
                WebHdfs.Page page = client.list(folder, last);
                isMore = page.isMore() && !page.entries().isEmpty();
                for (HdfsStatus entry : page.entries()) {
                    HdfsPath path = inside(entry.name()).listedAs(entry);
                    last = entry.name();
                    if (filter.accept(path)) {
                        ready.add(path);
                    }
                }
            }
        } catch (IOException e) {
            throw new DirectoryIteratorException(e);
        }
        return !ready.isEmpty();
    }

    /** A name leads nowhere else than into the folder. */
    private HdfsPath inside(String name) throws IOException {
        boolean plain = !name.isEmpty() && !name.equals(".") && !name.equals("..") && !name.contains("/");
        if (!plain || name.indexOf(':') >= 0 || name.indexOf('\0') >= 0) {
            throw new IOException("the server lists what is no name of a file in " + folder);
        }
        return folder.resolve(name);
    }

    @Override
    public Path next() {
        if (!hasNext()) {
            throw new NoSuchElementException();
        }
        return ready.remove();
    }

    @Override
    public void close() {
        isMore = false;
        ready.clear();
    }
}
