package org.orderlyferry.databases.place;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.fail;

import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.SQLException;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.stream.Stream;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.MethodSource;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.LoadMode;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Places;
import org.orderlyferry.place.TargetPlace;
import org.orderlyferry.problem.FerryException;
import org.orderlyferry.testkit.doubles.Contents;
import org.orderlyferry.testkit.doubles.ListedPlace;
import org.orderlyferry.testkit.doubles.Samples;
import org.orderlyferry.testkit.faults.FaultyConnections;
import org.orderlyferry.testkit.servers.TestSystem;
import org.orderlyferry.work.Export;
import org.orderlyferry.work.Load;
import org.orderlyferry.work.TransferResult;

/**
 * Walks the calls that an export and a load make to their server, and lets each of them fail: the connection is lost before
 * or after it is done, or the server refuses it. {@code -Dferry.faults=1} takes every call; a build takes every
 * forty-first; {@code -Dferry.faults.of=H2} takes one system.
 */
class FaultCampaignTest {

    private static final int STRIDE = Integer.getInteger("ferry.faults", 59);

    @TempDir
    private Path folder;

    static Stream<Arguments> campaigns() {
        String only = System.getProperty("ferry.faults.of", "");
        return TestSystem.names()
                .filter(s -> only.isEmpty() || only.equals(s))
                .flatMap(s -> Stream.of(FaultyConnections.Kind.survived()).map(k -> Arguments.of(s, k)));
    }

    private static ListedPlace old() {
        return Samples.labels(3);
    }

    private static TransferResult load(ListedPlace source, String url) {
        try (TargetPlace target = Places.openTarget(url)) {
            return Load.from(source).mode(LoadMode.REPLACE).into(target);
        }
    }

    private static Map<String, List<String>> state(String url) {
        Map<String, List<String>> state = new TreeMap<>();
        try (Place place = Places.open(url)) {
            for (TableName table : place.tables()) {
                state.put(
                        table.name(),
                        Contents.sorted(place, table, Samples.garden().define(TableName.of(table.name()))));
            }
        }
        return state;
    }

    private static Map<String, List<String>> all(ListedPlace truth) {
        Map<String, List<String>> all = new TreeMap<>();
        truth.tables().forEach(t -> all.put(t.name(), Contents.sorted(truth.rows(t), truth.define(t))));
        return all;
    }

    /** Whether nothing of a load that failed is left. */
    private static boolean isClean(String url) {
        try (Place place = Places.open(url)) {
            return place.leftBehind().isEmpty();
        }
    }

    private static void follow(String url, String when) {
        try {
            load(Samples.garden(), url);
            assertThat(state(url)).isEqualTo(all(Samples.garden()));
            assertThat(isClean(url)).isTrue();
            load(old(), url);
        } catch (RuntimeException | Error e) {
            fail("the load after " + when + " failed: " + e.getMessage(), e);
        }
    }

    @ParameterizedTest(name = "{0} {1}")
    @MethodSource("campaigns")
    void whateverCallOfALoadFailsTheTargetIsOldOrNewAndTheMessageSaysWhich(String system, FaultyConnections.Kind kind)
            throws Exception {
        String url = TestSystem.of(system).fresh(folder);
        load(Samples.garden(), url);
        load(old(), url);
        Map<String, List<String>> was = state(url);
        boolean struck = true;
        int points = 0;
        for (int fatal = 1; struck; fatal += STRIDE) {
            FaultyConnections faults = new FaultyConnections(fatal, kind, FaultyPlaces::unwrapped);
            String told = "";
            try (TargetPlace target = FaultyPlaces.open(system, url, true, faults)) {
                TransferResult result = Load.from(Samples.garden())
                        .mode(LoadMode.REPLACE)
                        .lanes(2)
                        .into(target);
                assertThat(result.rows()).isEqualTo(12);
            } catch (FerryException e) {
                told = e.getMessage();
            } catch (SQLException e) {
                // the place was never opened
                told = e.getMessage();
            } catch (RuntimeException | Error e) {
                fail("call " + fatal + " " + faults.struck() + " failed with " + e, e);
            }
            struck = !faults.struck().isEmpty();
            String when = system + " " + kind + ", call " + fatal + " " + faults.struck() + ": " + told;
            if (told.isEmpty() || told.contains("all records are in")) {
                assertThat(state(url)).as(when).isEqualTo(all(Samples.garden()));
            } else if (!told.contains("can't be put back as it was now")) {
                assertThat(state(url)).as(when).isEqualTo(was);
            }
            if (!was.equals(state(url)) || !isClean(url)) {
                // and the next load is as if nothing had been
                follow(url, when);
                was = state(url);
            }
            points++;
        }
        assertThat(points).isGreaterThan(2);
    }

    @ParameterizedTest(name = "{0} {1}")
    @MethodSource("campaigns")
    void whateverCallOfAnExportFailsThereIsAWholeSetOrNone(String system, FaultyConnections.Kind kind)
            throws Exception {
        String url = TestSystem.of(system).fresh(folder);
        load(Samples.garden(), url);
        boolean struck = true;
        for (int fatal = 1; struck; fatal += STRIDE) {
            FaultyConnections faults = new FaultyConnections(fatal, kind, FaultyPlaces::unwrapped);
            Path set = folder.resolve("set" + fatal);
            String told = "";
            try (Place source = FaultyPlaces.open(system, url, false, faults)) {
                Export.from(source).lanes(2).sliceRows(3).to(set);
            } catch (FerryException e) {
                told = e.getMessage();
            } catch (SQLException e) {
                told = e.getMessage();
            } catch (RuntimeException | Error e) {
                fail("call " + fatal + " " + faults.struck() + " failed with " + e, e);
            }
            struck = !faults.struck().isEmpty();
            String when = system + " " + kind + ", call " + fatal + " " + faults.struck() + ": " + told;
            if (Files.exists(set)) {
                assertThat(state(set.toString())).as(when).isEqualTo(all(Samples.garden()));
            } else {
                assertThat(told).as(when).isNotBlank();
            }
            try (Stream<Path> left = Files.list(folder)) {
                assertThat(left.filter(p -> p.getFileName().toString().contains("unfinished")))
                        .as(when)
                        .isEmpty();
            }
        }
    }
}
