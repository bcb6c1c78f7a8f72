package org.orderlyferry.exportset;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.util.List;
import java.util.UUID;
import org.orderlyferry.place.PartFile;
import org.orderlyferry.place.TablePart;
import org.slf4j.LoggerFactory;

/**
 * One of several processes that may write the same part at the same time: each has a folder of its own. Whose receipt is there
 * first has written the part, and only then its files go to where they belong; what of that it leaves undone, whoever reads the
 * receipt does.
 */
final class Attempt {

    static final String FOLDER = ".attempts";

    private final NewFolder folder;
    private final PartReceipts receipts;
    private final TablePart part;
    private final String own = FOLDER + "/" + UUID.randomUUID();

    Attempt(NewFolder folder, PartReceipts receipts, TablePart part) {
        this.folder = folder;
        this.receipts = receipts;
        this.part = part;
    }

    /** Where its files begin. */
    Path place() {
        return folder.resolve(own);
    }

    /** Makes the files those of the part; false if another attempt's are. */
    boolean claims(List<PartFile> written, String receipt) {
        if (!receipts.claim(part, written, receipt, own)) {
            return false;
        }
        try {
            settle(folder, own, written);
        } catch (IOException e) {
            throw folder.failed("a part's files can't take their places", e);
        }
        return true;
    }

    /** Brings an attempt's files to where they belong, as far as they aren't there yet. */
    static void settle(NewFolder folder, String attempt, List<PartFile> files) throws IOException {
        for (PartFile file : files) {
            Path from = folder.resolve(attempt + "/" + file.path());
            Path to = folder.resolve(file.path());
            if (!from.normalize().startsWith(folder.growing())
                    || !to.normalize().startsWith(folder.growing())
                    || !Files.exists(from)) {
                continue;
            }
            Files.createDirectories(to.getParent());
            try {
                // what stands there is of an attempt that has no receipt
                Files.move(from, to, StandardCopyOption.REPLACE_EXISTING);
            } catch (NoSuchFileException e) {
                LoggerFactory.getLogger(Attempt.class).debug("{} was settled by another one", to, e);
            }
        }
    }
}
