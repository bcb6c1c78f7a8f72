package org.orderlyferry.matrix;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import org.orderlyferry.cli.Ferry;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.place.LoadMode;
import org.orderlyferry.place.Loading;
import org.orderlyferry.place.OpenOptions;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.PlaceAddress;
import org.orderlyferry.place.Places;
import org.orderlyferry.place.TargetPlace;
import org.orderlyferry.place.Written;
import org.orderlyferry.testkit.servers.Databases;
import org.orderlyferry.testkit.servers.Servers;

/** Several loads into one target: what one has made and filled, no other takes away. */
class SharedTargetsTest {

    @TempDir
    Path folder;

    private Path csv(String name) throws Exception {
        return Files.writeString(folder.resolve(name + ".csv"), "n,t\r\n1,moss\r\n");
    }

    private List<TableDefinition> definitions(Path file) {
        try (Place place = Places.open(file.toString())) {
            return place.tables().stream().map(place::define).toList();
        }
    }

    @Test
    void aFileThatAnotherHasFilledMeanwhileStays() throws Exception {
        Path target = folder.resolve("new.sqlite");
        Path other = folder.resolve("other.sqlite");
        assertThat(Ferry.run("load", csv("fern"), other).code()).isZero();
        try (TargetPlace first = Places.openTarget(target.toString())) {
            assertThat(first.address()).contains("new.sqlite");
            Files.move(other, target, StandardCopyOption.REPLACE_EXISTING);
        }
        assertThat(Databases.rows("jdbc:sqlite:" + target, "SELECT * FROM fern"))
                .containsExactly("1 moss");
    }

    @Test
    void twoLoadsAtOnceIntoANewFile() throws Exception {
        Path target = folder.resolve("new.sqlite");
        Path file = csv("label");
        try (TargetPlace first = Places.openTarget(target.toString());
                Loading loading = first.begin(definitions(file), LoadMode.CREATE)) {
            Ferry second = Ferry.run("load", csv("fern"), target);
            assertThat(second.code()).isIn(2, 3);
            assertThat(second.err()).contains("locked");
            loading.finish(Written.NOTHING);
        }
        assertThat(Databases.rows("jdbc:sqlite:" + target, "SELECT COUNT(*) FROM label"))
                .containsExactly("0");
    }

    @Test
    void aFileThatIsRemovedWhileItIsLoadedIsNotTakenForLoaded() throws Exception {
        Path target = folder.resolve("new.sqlite");
        String failure = "";
        try (TargetPlace place = Places.openTarget(target.toString());
                Loading loading = place.begin(definitions(csv("label")), LoadMode.CREATE)) {
            Files.delete(target);
            loading.finish(Written.NOTHING);
        } catch (RuntimeException e) {
            failure = e.getMessage();
        }
        assertThat(failure).containsAnyOf("was removed while it was loaded", "can't be finished");
        assertThat(target).doesNotExist();
    }

    @ParameterizedTest
    @MethodSource("org.orderlyferry.testkit.servers.TestSystem#serverNames")
    void aDatabaseThatWasMadeIsKeptOnceAnotherHasFilledIt(String system) throws Exception {
        String there = system.equals("PostgreSQL") ? Servers.newPostgres() : Servers.newMaria();
        String url = there.replaceFirst("(/ferry_[0-9_]+)", "$1_made");
        OpenOptions options = OpenOptions.builder().makeMissing(true).build();
        try (TargetPlace first = Places.openTarget(PlaceAddress.of(url), options)) {
            assertThat(first.address()).contains("made");
            assertThat(Ferry.run("load", csv("fern"), url).code()).isZero();
        }
        assertThat(Databases.rows(url, "SELECT n FROM fern")).containsExactly("1");
    }

    @Test
    void aTryLeavesNothingAndTakesNothingAway() throws Exception {
        Path target = folder.resolve("new.sqlite");
        assertThat(Ferry.run("load", "--try", csv("fern"), target).code()).isZero();
        assertThat(target).doesNotExist();
        assertThat(Ferry.run("load", csv("fern"), target).code()).isZero();
        assertThat(Ferry.run("load", "--try", csv("label"), target).code()).isZero();
        assertThat(Databases.rows("jdbc:sqlite:" + target, "SELECT n FROM fern"))
                .containsExactly("1");
    }
}
