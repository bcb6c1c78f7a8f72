package org.orderlyferry.report;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import org.apiguardian.api.API;
import org.jspecify.annotations.NullMarked;
import org.jspecify.annotations.Nullable;
import org.orderlyferry.exportset.SetManifest;

/** Lists the files of an export set for a record. */
@NullMarked
@API(status = API.Status.INTERNAL)
public final class SetFiles {

    private SetFiles() {}

    /**
     * Of a set's folder.
     *
     * @return null where there is no such folder
     * @throws org.orderlyferry.problem.FerryException if it is no set
     */
    public static @Nullable RecordedSet of(Path folder) {
        if (!Files.isDirectory(folder)) {
            return null;
        }
        SetManifest manifest = SetManifest.of(folder);
        List<SetFile> files = new ArrayList<>();
        manifest.each((path, sum) -> {
            if (files.size() < RecordedSet.MOST) {
                files.add(new SetFile(path, manifest.bytes(path), sum));
            }
        });
        return new RecordedSet(folder.toString(), files, manifest.files() - files.size());
    }
}
