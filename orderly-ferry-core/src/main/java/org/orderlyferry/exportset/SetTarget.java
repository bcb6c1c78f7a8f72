package org.orderlyferry.exportset;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import org.orderlyferry.format.FileFormat;
import org.orderlyferry.format.FileSettings;
import org.orderlyferry.io.Compression;
import org.orderlyferry.io.WrittenPath;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.place.LoadMode;
import org.orderlyferry.place.LoadModes;
import org.orderlyferry.place.Loading;
import org.orderlyferry.place.WriteOnlyPlace;
import org.orderlyferry.problem.UsageException;

/** An export set that is to be made. It stands in its place when it is whole, and not sooner. */
public final class SetTarget extends WriteOnlyPlace {

    private final Path set;
    private final FileFormat format;
    private final FileSettings settings;
    private final Compression compression;
    private final String system;
    private boolean ordersByKey;

    /**
     * A set to come.
     *
     * @param set where it is to stand: a folder, or a file whose ending is that of a bundle
     * @param format what kind of files it has, each of one table
     * @param settings how they are written
     * @param compression of its data files
     * @param system what the records come from, as the set is to say it
     */
    public SetTarget(Path set, FileFormat format, FileSettings settings, Compression compression, String system) {
        super(WrittenPath.of(set));
        format.check(settings);
        this.set = set;
        this.format = format;
        this.settings = settings;
        this.compression = compression;
        this.system = system;
    }

    /**
     * Begins the set, or goes on with one that was begun.
     *
     * @param modes {@link LoadMode#REPLACE} of all if a set that is there may be replaced, else {@link LoadMode#CREATE}
     */
    @Override
    public Loading begin(List<TableDefinition> tables, LoadModes modes, String plan) {
        LoadMode mode = modes.most();
        if (mode != LoadMode.CREATE && mode != LoadMode.REPLACE
                || !modes.others().isEmpty()) {
            throw new UsageException("records can't be added to an export set; it can only be replaced");
        }
        boolean overwrite = mode == LoadMode.REPLACE;
        Optional<Bundle> bundle = Bundle.ofName(set);
        if (bundle.isPresent() && Files.exists(set) && !overwrite) {
            throw new UsageException(set + " is there already; it is kept unless --overwrite is given");
        }
        return new SetLoading(assembly(tables), NewFolder.begin(grown(bundle), overwrite || bundle.isPresent(), plan));
    }

    @Override
    public Loading join(List<TableDefinition> tables, LoadModes modes, String plan) {
        return new SetLoading(assembly(tables), NewFolder.join(grown(Bundle.ofName(set)), plan));
    }

    /** What is bundled grows as a folder beside the file, and is packed when it is whole. */
    private Path grown(Optional<Bundle> bundle) {
        return bundle.isPresent() ? set.resolveSibling("." + set.getFileName() + ".unpacked") : set;
    }

    private SetAssembly assembly(List<TableDefinition> tables) {
        return new SetAssembly(set, format, settings, compression, system, tables);
    }

    @Override
    public Loading rehearse(List<TableDefinition> tables, LoadModes modes) {
        throw new UnsupportedOperationException("an export set refuses no value, so there is nothing to try");
    }

    /** Whether whoever is to take the set in {@link #ordersByKey orders by key}; not unless told otherwise. */
    public SetTarget inKeyOrder(boolean value) {
        ordersByKey = value;
        return this;
    }

    @Override
    public boolean ordersByKey() {
        return ordersByKey;
    }

    /** As many as there are slices: each is a file of its own. */
    @Override
    public int mostLanes() {
        return Integer.MAX_VALUE;
    }

    @Override
    public String system() {
        return "export set";
    }
}
