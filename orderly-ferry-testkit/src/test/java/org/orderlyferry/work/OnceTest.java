package org.orderlyferry.work;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.function.Supplier;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.orderlyferry.model.Finding;
import org.orderlyferry.model.LeftBehind;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.place.Companions;
import org.orderlyferry.place.LoadMode;
import org.orderlyferry.place.Loading;
import org.orderlyferry.place.Merged;
import org.orderlyferry.place.Place;
import org.orderlyferry.place.Slice;
import org.orderlyferry.place.TablePart;
import org.orderlyferry.place.TargetPlace;
import org.orderlyferry.place.Written;
import org.orderlyferry.problem.BadValueException;
import org.orderlyferry.problem.FerryException;
import org.orderlyferry.problem.Origin;
import org.orderlyferry.problem.PlaceException;
import org.orderlyferry.record.RecordBatch;
import org.orderlyferry.record.RecordReader;
import org.orderlyferry.record.RecordWriter;
import org.orderlyferry.record.Rejects;
import org.orderlyferry.testkit.faults.Faulty;

/** Whatever call of a reader or a writer fails: each record is in the target once, and is counted once. */
@Tag("everywhere")
class OnceTest {

    private static final TableDefinition TABLE = TableDefinition.named("label")
            .column("a", org.orderlyferry.model.LogicalType.CLOB)
            .column("b", org.orderlyferry.model.LogicalType.CLOB)
            .build();

    @TempDir
    Path folder;

    private final List<String> committed = new ArrayList<>();

    /** Three records, of which the second can't be taken. */
    private static final class Herb implements Place {
        private final Faulty faulty;

        Herb(Faulty faulty) {
            this.faulty = faulty;
        }

        @Override
        public String address() {
            return "herb";
        }

        @Override
        public String system() {
            return "double";
        }

        @Override
        public List<TableName> tables() {
            return List.of(TABLE.name());
        }

        @Override
        public TableDefinition define(TableName table) {
            return TABLE;
        }

        @Override
        public long count(TableName table) {
            return 3;
        }

        @Override
        public OptionalLong bytes(TableName table) {
            return OptionalLong.empty();
        }

        @Override
        public Companions companions(int count) {
            return new Companions(List.of(new Herb(faulty)), List.of());
        }

        @Override
        public List<LeftBehind> leftBehind() {
            return List.of();
        }

        @Override
        public RecordReader read(Slice slice) {
            return read(slice, Rejects.STOP);
        }

        @Override
        public RecordReader read(Slice slice, Rejects rejects) {
            return faulty.of(RecordReader.class, new RecordReader() {
                private int next;

                @Override
                public TableDefinition table() {
                    return TABLE;
                }

                @Override
                public boolean read(RecordBatch batch) {
                    batch.start(2, "label", "herb", false);
                    if (next == 3) {
                        return false;
                    }
                    next++;
                    if (next == 2) {
                        rejects.reject(new BadValueException(
                                new Origin("label", "herb", 2, true), "a", "?", "can't be taken"));
                        next++;
                    }
                    batch.add(Integer.toString(next).getBytes(java.nio.charset.StandardCharsets.UTF_8));
                    batch.addNull();
                    batch.endRow(next);
                    return true;
                }

                @Override
                public void close() {
                    // nothing is held
                }
            });
        }

        @Override
        public void close() {
            // nothing is held
        }
    }

    private Loading loading(Faulty faulty) {
        return new Loading() {
            @Override
            public RecordWriter writer(TablePart part, Supplier<String> receipt) {
                List<String> pending = new ArrayList<>();
                return faulty.of(RecordWriter.class, new RecordWriter() {
                    @Override
                    public void write(RecordBatch batch) {
                        for (int row = 0; row < batch.rows(); row++) {
                            pending.add(batch.text(row, 0));
                        }
                    }

                    @Override
                    public void finish() {
                        committed.addAll(pending);
                    }

                    @Override
                    public void close() {
                        // nothing is held
                    }
                });
            }

            @Override
            public void finish(Written written) {
                // each slice is in
            }

            @Override
            public Optional<Merged> merged(TableName table) {
                return Optional.empty();
            }

            @Override
            public List<Finding> findings() {
                return List.of();
            }

            @Override
            public List<LeftBehind> leftBehind() {
                return List.of();
            }

            @Override
            public void close() {
                // nothing is held
            }
        };
    }

    private TargetPlace target(Faulty faulty) {
        Place rest = new Herb(faulty);
        return (TargetPlace) java.lang.reflect.Proxy.newProxyInstance(
                TargetPlace.class.getClassLoader(),
                new Class<?>[] {TargetPlace.class},
                (self, method, arguments) -> switch (method.getName()) {
                    case "begin" -> loading(faulty);
                    case "mostLanes" -> 2;
                    case "ordersByKey" -> false;
                    case "address" -> "target";
                    default -> method.invoke(rest, arguments);
                });
    }

    @Test
    void whateverCallFailsForALostConnectionEachRecordIsInAndCountedOnce() throws Exception {
        for (int fatal = 1; ; fatal++) {
            committed.clear();
            Path file = folder.resolve("rejects" + fatal + ".csv");
            Faulty faulty = new Faulty(fatal, () -> new PlaceException("herb", "connection lost", false, true, null));
            TransferResult result = null;
            FerryException failed = null;
            try (RejectFile rejects = new RejectFile(file)) {
                result = Load.from(new Herb(faulty))
                        .lanes(2)
                        .rejects(rejects)
                        .mode(LoadMode.CREATE)
                        .into(target(faulty));
            } catch (FerryException e) {
                failed = e;
            }
            String at = fatal + " " + faulty.struck();
            assertThat(failed).as(at).isNull();
            assertThat(committed).as(at).containsExactly("1", "3");
            assertThat(result.tables().get(0).written()).as(at).isEqualTo(2);
            assertThat(result.tables().get(0).rejected()).as(at).isEqualTo(1);
            assertThat(result.tables().get(0).read()).as(at).isEqualTo(3);
            assertThat(Files.readAllLines(file)).as(at).hasSize(2);
            assertThat(folder.toFile().list((d, n) -> n.contains("attempt"))).isEmpty();
            if (faulty.struck().equals("RecordWriter.close")) {
                assertThat(result.findings())
                        .extracting(Finding::text)
                        .containsExactly("its records are in, but herb: connection lost");
            }
            if (!faulty.isStruck()) {
                break;
            }
        }
    }

    @Test
    void anExportsPartIsWrittenAndCountedOnce() throws Exception {
        for (int fatal = 1; ; fatal++) {
            Faulty faulty = new Faulty(fatal, () -> new PlaceException("herb", "connection lost", false, true, null));
            Path set = folder.resolve("set" + fatal);
            TransferResult result = Export.from(new Herb(faulty))
                    .lanes(2)
                    .rejects(new RejectFile(folder.resolve("r" + fatal + ".csv")))
                    .to(set);
            assertThat(result.rows()).as(faulty.struck()).isEqualTo(2);
            assertThat(result.rejected()).as(faulty.struck()).isEqualTo(1);
            assertThat(Files.readAllLines(set.resolve("data/label.csv")))
                    .as(faulty.struck())
                    .containsExactly("a,b", "1,", "3,");
            if (!faulty.isStruck()) {
                break;
            }
        }
    }
}
