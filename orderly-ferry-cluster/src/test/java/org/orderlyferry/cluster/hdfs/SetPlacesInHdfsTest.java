package org.orderlyferry.cluster.hdfs;

import java.nio.file.Path;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.stream.Stream;
import org.orderlyferry.format.FileFormats;
import org.orderlyferry.format.FileSettings;
import org.orderlyferry.io.Compression;
import org.orderlyferry.io.WrittenPath;
import org.orderlyferry.testkit.contract.Ends;
import org.orderlyferry.testkit.contract.PlaceContract;
import org.orderlyferry.testkit.doubles.ListedPlace;
import org.orderlyferry.work.Export;

/** Export sets in HDFS, as folders and as bundles, keep what every place keeps. */
class SetPlacesInHdfsTest extends PlaceContract {

    private final AtomicInteger number = new AtomicInteger();
    private final Path folder = MiniCluster.folder();

    @Override
    protected Stream<Ends> ends() {
        return Stream.of("csv set", "csv set.zip", "jsonl set.tar.zst")
                .map(name -> new Ends(name, here -> address(name.substring(name.indexOf("set") + 3)), true, false));
    }

    private String address(String bundle) {
        return WrittenPath.of(folder.resolve("s" + number.incrementAndGet() + bundle));
    }

    @Override
    protected void fill(Ends ends, String address, ListedPlace truth) {
        Export.from(truth)
                .format(FileFormats.named(ends.name().substring(0, ends.name().indexOf(' '))), FileSettings.NONE)
                .compression(address.endsWith(".zip") ? Compression.GZIP : Compression.NONE)
                // several parts in one, a single one in the other
                .sliceRows(address.endsWith(".zst") ? 1_000 : 10)
                .lanes(2)
                .to(WrittenPath.read(address));
    }
}
