package org.orderlyferry.exportset;

import java.nio.file.Path;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.stream.Stream;
import org.orderlyferry.format.FileFormat;
import org.orderlyferry.format.FileFormats;
import org.orderlyferry.format.FileSettings;
import org.orderlyferry.io.Compression;
import org.orderlyferry.testkit.contract.Ends;
import org.orderlyferry.testkit.contract.PlaceContract;
import org.orderlyferry.testkit.doubles.ListedPlace;
import org.orderlyferry.work.Export;

/** Export sets of core's formats: folders and bundles, whole tables and parts. */
class SetPlacesTest extends PlaceContract {

    private final AtomicInteger number = new AtomicInteger();

    @Override
    protected Stream<Ends> ends() {
        return FileFormats.all().stream().flatMap(f -> Stream.of("", ".zip", ".tar.gz", ".tar.zst")
                .map(bundle -> new Ends(f.name() + " set" + bundle, folder -> address(folder, bundle), true, false)));
    }

    private String address(Path folder, String bundle) {
        return folder.resolve("s" + number.incrementAndGet() + bundle).toString();
    }

    @Override
    protected void fill(Ends ends, String address, ListedPlace truth) {
        FileFormat format = FileFormats.all().stream()
                .filter(f -> ends.name().startsWith(f.name() + " set"))
                .findFirst()
                .orElseThrow();
        Export.from(truth)
                .format(format, FileSettings.NONE)
                .compression(address.endsWith(".zip") ? Compression.GZIP : Compression.NONE)
                // several parts in one, a single one in the other
                .sliceRows(address.endsWith(".zst") ? 1_000 : 10)
                .lanes(2)
                .to(Path.of(address));
    }
}
