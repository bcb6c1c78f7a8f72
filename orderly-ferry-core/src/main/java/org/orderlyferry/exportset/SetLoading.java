package org.orderlyferry.exportset;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.function.Supplier;
import org.orderlyferry.model.Finding;
import org.orderlyferry.model.FindingCode;
import org.orderlyferry.model.LeftBehind;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.Loading;
import org.orderlyferry.place.Merged;
import org.orderlyferry.place.PartFile;
import org.orderlyferry.place.TablePart;
import org.orderlyferry.place.Written;
import org.orderlyferry.record.RecordWriter;

/**
 * A set on its way. It grows under another name beside its place and takes that place when it is complete; until then,
 * whatever stood there stays as it was. Each part is a file that stands for itself; its receipt, a small file beside the
 * set's, is written when the part is on the disk.
 */
final class SetLoading implements Loading {

    private final SetAssembly assembly;
    private final NewFolder folder;
    private final PartReceipts receipts;
    private final Map<Integer, List<PartFile>> files = new TreeMap<>();
    private final Map<Integer, TableName> tables = new HashMap<>();
    private final Set<TableName> leftOut = new HashSet<>();
    private final List<Finding> findings = new ArrayList<>();

    SetLoading(SetAssembly assembly, NewFolder folder) {
        this.assembly = assembly;
        this.folder = folder;
        this.receipts = new PartReceipts(folder);
        folder.cleared()
                .forEach(left -> findings.add(Finding.ofAll(
                        FindingCode.UNDONE,
                        "an earlier export to this place was killed; what it had left was cleared away: "
                                + left.getFileName())));
    }

    @Override
    public RecordWriter writer(TablePart part, Supplier<String> receipt) {
        if (folder.isJoined()) {
            Attempt attempt = new Attempt(folder, receipts, part);
            return new PartFileWriter(
                    assembly, attempt.place(), part, written -> attempt.claims(written, receipt.get()));
        }
        return new PartFileWriter(assembly, folder.growing(), part, written -> keep(part, written, receipt.get()));
    }

    /** The receipt is written beside those of others; a table may be left out of the set meanwhile. */
    private boolean keep(TablePart part, List<PartFile> written, String receipt) {
        if (isLeftOut(part.table())) {
            return false;
        }
        if (folder.isNamed()) {
            receipts.write(part, written, receipt);
        }
        synchronized (this) {
            if (isLeftOut(part.table())) {
                written.forEach(f -> remove(f.path()));
                return false;
            }
            files.put(part.task(), written);
            tables.put(part.task(), part.table());
            return true;
        }
    }

    private synchronized boolean isLeftOut(TableName table) {
        return leftOut.contains(table);
    }

    @Override
    public synchronized Map<Integer, String> receipts() {
        Map<Integer, String> all = new TreeMap<>();
        receipts.all().forEach((task, kept) -> {
            files.put(task, kept.files());
            tables.put(task, kept.table());
            all.put(task, kept.receipt());
        });
        return all;
    }

    @Override
    public Optional<String> receipt(int task) {
        return receipts.one(task).map(PartReceipts.Kept::receipt);
    }

    /** Takes a table out of the set again, with what was written of it, or still is. */
    @Override
    public synchronized boolean leaveOut(TableName table) {
        leftOut.add(table);
        tables.forEach((task, name) -> {
            if (name.equals(table)) {
                files.remove(task).forEach(f -> remove(f.path()));
            }
        });
        tables.values().removeIf(table::equals);
        return true;
    }

    private void remove(String path) {
        try {
            Files.deleteIfExists(folder.resolve(path));
        } catch (IOException e) {
            throw assembly.failed(e);
        }
    }

    @Override
    public void finish(Written written) {
        receipts();
        List<SetAssembly.Part> parts = new ArrayList<>();
        for (Written.Part part : written.parts()) {
            if (!written.leftOut().contains(part.part().table())) {
                parts.add(
                        new SetAssembly.Part(part.part(), files.get(part.part().task()), part.tally()));
            }
        }
        receipts.clear();
        try {
            folder.remove(Attempt.FOLDER);
        } catch (IOException e) {
            throw assembly.failed(e);
        }
        dropUnlisted(parts);
        assembly.complete(folder, parts, written.leftBehind());
        folder.notRemoved()
                .ifPresent(old -> findings.add(Finding.ofAll(
                        FindingCode.NOT_REMOVED,
                        "the set is whole, but what it took the place of can't be removed: " + old)));
    }

    /** What no part lists is of an attempt that was killed. */
    private void dropUnlisted(List<SetAssembly.Part> parts) {
        Set<Path> listed = new HashSet<>();
        parts.forEach(p -> p.files().forEach(f -> listed.add(folder.resolve(f.path()))));
        try {
            folder.dropAllBut(Layout.DATA, listed);
        } catch (IOException e) {
            throw assembly.failed(e);
        }
    }

    @Override
    public void suspend() {
        folder.suspend();
    }

    @Override
    public Optional<Merged> merged(TableName table) {
        return Optional.empty();
    }

    @Override
    public List<Finding> findings() {
        return List.copyOf(findings);
    }

    @Override
    public List<LeftBehind> leftBehind() {
        return List.of();
    }

    @Override
    public void close() {
        folder.close();
    }
}
