package org.orderlyferry.exportset;

import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.nio.file.FileSystems;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.regex.Pattern;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;
import org.orderlyferry.place.Slice;
import org.orderlyferry.problem.BrokenSetException;
import org.orderlyferry.problem.FerryException;

/** Sets that somebody has changed, or made to do harm. */
@Tag("everywhere")
class BrokenSetTest extends ExportSetCase {

    @Test
    void aChangedAMissingAndAnExtraFileAreEachToldOf() throws IOException {
        Path set = written();
        Path file = set.resolve("data/label.csv");
        String original = Files.readString(file);
        Files.writeString(file, original.replace("moss", "Moss"));
        assertBroken(set, "the file data/label.csv was changed after the set was made: its SHA-256 is ");
        Files.delete(file);
        assertBroken(set, "the file data/label.csv is missing");
        Files.writeString(file, original);
        Files.writeString(set.resolve("data/more.csv"), "x");
        assertBroken(set, "these files are in it but not in its manifest: data/more.csv");
        Files.delete(set.resolve("data/more.csv"));
        ExportSet.open(set).verify();
        Path schema = set.resolve("definitions/label.json");
        Files.writeString(schema, Files.readString(schema).replace("200", "300"));
        assertBroken(set, "the file definitions/label.json was changed");
        Files.delete(schema);
        assertBroken(set, "the file definitions/label.json is missing");
    }

    /** As it is done where the tallies of what is read are compared anyway. */
    @Test
    void filesAreLookedAtWithoutBeingRead() throws IOException {
        Path set = written();
        ExportSet open = ExportSet.open(set);
        open.verifyFiles();
        Path file = set.resolve("data/label.csv");
        String original = Files.readString(file);
        Files.writeString(file, original.replace("moss", "Moss"));
        open.verifyFiles();
        Files.writeString(file, original.replace("moss", "mosses"));
        assertThatThrownBy(open::verifyFiles)
                .isInstanceOf(BrokenSetException.class)
                .hasMessageContaining("the file data/label.csv was changed after the set was made: it has "
                        + Files.size(file) + " bytes, and had " + (Files.size(file) - 2));
        Files.delete(file);
        assertThatThrownBy(open::verifyFiles).hasMessageContaining("the file data/label.csv is missing");
        assertThatThrownBy(() -> open.bytes(LABEL.name())).hasMessageContaining("the file data/label.csv is missing");
        Files.writeString(file, original);
        Files.writeString(set.resolve("data/more.csv"), "x");
        assertThatThrownBy(open::verifyFiles).hasMessageContaining("data/more.csv");
    }

    @Test
    void anUnknownVersionIsRefused() throws IOException {
        Path set = written();
        Path info = set.resolve("bag-info.txt");
        Files.writeString(info, Files.readString(info).replace("Export-Set-Version: 1", "Export-Set-Version: 9"));
        assertBroken(set, "it has the format version 9, and this program knows 1; use a newer Orderly Ferry");
        Files.writeString(set.resolve("bagit.txt"), "BagIt-Version: 7.0\n");
        assertBroken(set, "its bagit.txt begins with 'BagIt-Version: 7.0'");
        Files.delete(set.resolve("bagit.txt"));
        assertThatThrownBy(() -> org.orderlyferry.place.Places.open(set))
                .hasMessageContaining("it is no export set, or one that was never completed");
    }

    @Test
    void aPathThatLeavesTheSetIsRefusedWhereverItStands() throws IOException {
        Path set = written();
        Path outside = folder.resolve("outside.csv");
        Files.writeString(outside, "number,text\r\n1,secret\r\n");
        Path definitions = set.resolve("definitions.json");
        String original = Files.readString(definitions);
        for (String url : List.of(
                "../outside.csv",
                "data/../../outside.csv",
                "%2E%2E/outside.csv",
                outside.toUri().getPath())) {
            Files.writeString(definitions, original.replace("data/label.csv", url));
            assertBroken(set, "leaves it");
        }
        Files.writeString(definitions, original);
        Path manifest = set.resolve("manifest-sha256.txt");
        String sums = Files.readString(manifest);
        Files.writeString(manifest, sums.replace("data/label.csv", "../outside.csv"));
        assertBroken(set, "");
        Files.writeString(manifest, sums);
        // these tests run in other file systems, too, and not each has links
        if (!set.getFileSystem().equals(FileSystems.getDefault())) {
            return;
        }
        Files.delete(set.resolve("data/label.csv"));
        Files.createSymbolicLink(set.resolve("data/label.csv"), outside);
        assertBroken(set, "the file data/label.csv is a link that leaves it");
        ExportSet open = ExportSet.open(set);
        assertThatThrownBy(() -> open.read(Slice.whole(LABEL)))
                .hasMessageContaining("the file data/label.csv is a link that leaves it");
        assertThatThrownBy(() -> open.count(LABEL.name())).hasMessageContaining("is a link that leaves it");
    }

    private static void assertBroken(Path set, String message) {
        assertThatThrownBy(() -> ExportSet.open(set).verify())
                .isInstanceOf(BrokenSetException.class)
                .hasMessageContaining(message)
                .hasMessageMatching("(?s)export set \\S*" + Pattern.quote("/" + set.getFileName()) + "/?: .*");
    }

    @Test
    void definitionsThatMakeNoSenseAreToldOf() throws IOException {
        Path set = written();
        Path schema = set.resolve("definitions/label.json");
        Files.writeString(schema, Files.readString(schema).replace("\"INTEGER\"", "\"MOSSY\""));
        assertThatThrownBy(() -> ExportSet.open(set))
                .isInstanceOf(FerryException.class)
                .hasMessageContaining("not a logical type: MOSSY");
        Files.writeString(schema, "{ not json");
        assertThatThrownBy(() -> ExportSet.open(set)).hasMessageContaining("definitions/label.json isn't JSON");
    }
}
