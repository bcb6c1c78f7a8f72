package org.orderlyferry.cluster.hdfs;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.nio.ByteBuffer;
import java.nio.channels.SeekableByteChannel;
import java.nio.file.AccessDeniedException;
import java.nio.file.DirectoryNotEmptyException;
import java.nio.file.FileAlreadyExistsException;
import java.nio.file.Files;
import java.nio.file.InvalidPathException;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.nio.file.StandardOpenOption;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Random;
import java.util.stream.Stream;
import org.apache.hadoop.fs.FileStatus;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import org.orderlyferry.io.Abreast;
import org.orderlyferry.io.AppendedFile;
import org.orderlyferry.io.Listing;
import org.orderlyferry.io.NewFile;
import org.orderlyferry.io.WrittenPath;

/** Files in a real HDFS, as Java's programs see them. */
class HdfsFilesTest {

    private Path folder;

    @BeforeEach
    void newFolder() {
        folder = MiniCluster.folder();
    }

    private static byte[] bytes(int count) {
        byte[] bytes = new byte[count];
        new Random(count).nextBytes(bytes);
        return bytes;
    }

    /** Around pieces of a checksum, what is sent at once, a block, and several of them. */
    @ParameterizedTest
    @ValueSource(
            ints = {0, 1, 511, 512, 513, 1024 * 1024 - 1, 1024 * 1024, 1024 * 1024 + 1, 2 * 1024 * 1024, 3_333_333})
    void whatWasWrittenIsRead(int count) throws IOException {
        Path file = folder.resolve("loan.bin");
        byte[] bytes = bytes(count);
        try (OutputStream out = Files.newOutputStream(file)) {
            for (int at = 0; at < count; at += 300_007) {
                out.write(bytes, at, Math.min(300_007, count - at));
            }
        }
        assertThat(Files.size(file)).isEqualTo(count);
        assertThat(Files.readAllBytes(file)).isEqualTo(bytes);
        FileStatus status = MiniCluster.cluster()
                .getFileSystem()
                .getFileStatus(new org.apache.hadoop.fs.Path(((HdfsPath) file).inside()));
        assertThat(status.getLen()).isEqualTo(count);
        assertThat(status.getOwner()).isEqualTo("quill");
    }

    /** What a listing tells of files is used once, by whoever walks through it: after that they are asked anew. */
    @Test
    void whatIsListedIsNotTakenForTrueAgain() throws IOException {
        Path inner = Files.createDirectory(folder.resolve("chamber"));
        Path file = Files.writeString(inner.resolve("reading.csv"), "1,moss\n");
        Listing listing = Listing.of(folder);
        assertThat(listing.folders()).containsExactly(folder, inner);
        assertThat(listing.files()).containsOnlyKeys(file);
        assertThat(listing.files().get(file).size()).isEqualTo(7);
        Path listed;
        try (Stream<Path> all = Files.list(inner)) {
            listed = all.findFirst().orElseThrow();
        }
        assertThat(Files.size(listed)).isEqualTo(7);
        Files.writeString(file, "1,moss\n2,fern\n");
        assertThat(Files.size(listed)).isEqualTo(14);
    }

    @Test
    void manyFilesAreDealtWithAtOnceAndAFailureIsTold() throws IOException {
        List<Path> files = new ArrayList<>();
        for (int i = 0; i < 40; i++) {
            files.add(folder.resolve("part-" + i));
        }
        Abreast.each(files, file -> NewFile.among(file, new byte[] {1, 2, 3}));
        assertThat(Listing.of(folder).files()).hasSize(40).allSatisfy((file, is) -> assertThat(is.size())
                .isEqualTo(3));
        Files.delete(files.get(17));
        assertThatThrownBy(() -> Abreast.each(files, Files::delete))
                .isInstanceOf(NoSuchFileException.class)
                .hasMessageContaining("part-17");
        assertThatThrownBy(() -> Abreast.each(files, file -> {
                    throw new IllegalStateException("no such thing");
                }))
                .isInstanceOf(IllegalStateException.class);
    }

    @Test
    void aFileIsReadFromAnyPlaceOn() throws IOException {
        Path file = folder.resolve("specimen.bin");
        byte[] bytes = bytes(2_500_000);
        Files.write(file, bytes);
        try (SeekableByteChannel channel = Files.newByteChannel(file)) {
            for (int place : List.of(2_499_999, 0, 1_048_575, 1_048_576, 17, 2_400_000)) {
                ByteBuffer some = ByteBuffer.allocate(Math.min(1_000, bytes.length - place));
                channel.position(place);
                while (some.hasRemaining()) {
                    assertThat(channel.read(some)).isPositive();
                }
                assertThat(some.array()).isEqualTo(Arrays.copyOfRange(bytes, place, place + some.capacity()));
            }
            assertThat(channel.position(bytes.length).read(ByteBuffer.allocate(1)))
                    .isEqualTo(-1);
        }
    }

    @Test
    void linesAreAddedAndWhatIsBehindThemIsCutOff() throws IOException {
        Path file = folder.resolve("ledger.jsonl");
        try (AppendedFile ledger = AppendedFile.open(file)) {
            ledger.add("one\n".getBytes());
            ledger.add("two\n".getBytes());
            ledger.addLoosely("thr".getBytes());
        }
        assertThat(Files.readString(file)).isEqualTo("one\ntwo\nthr");
        try (AppendedFile ledger = AppendedFile.open(file)) {
            ledger.keep(8);
            ledger.add("four\n".getBytes());
        }
        assertThat(Files.readString(file)).isEqualTo("one\ntwo\nfour\n");
        assertThat(MiniCluster.names(folder)).containsExactly("ledger.jsonl");
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "moss on rock.csv",
                "50%.csv",
                "50%25.csv",
                "a+b.csv",
                "Flügel.csv",
                "苔 🌿.csv",
                "a&op=DELETE.csv",
                "what?.csv",
                "no#1.csv",
                "a;b.csv",
                "it's.csv",
                "\"quoted\".csv",
                "back\\slash.csv",
                "_hidden",
                ".hidden",
                "~",
                "{glob}*[a]"
            })
    void namesAreWhatTheyAre(String name) throws IOException {
        Path file = folder.resolve(name);
        Files.writeString(file, name);
        assertThat(MiniCluster.names(folder)).containsExactly(name);
        assertThat(Files.readString(WrittenPath.read(WrittenPath.of(file)))).isEqualTo(name);
        assertThat(Files.readString(WrittenPath.read(file.toString()))).isEqualTo(name);
        Path other = folder.resolve(name + " moved");
        Files.move(file, other);
        assertThat(MiniCluster.names(folder)).containsExactly(name + " moved");
        assertThat(MiniCluster.cluster()
                        .getFileSystem()
                        .exists(new org.apache.hadoop.fs.Path(
                                new org.apache.hadoop.fs.Path(((HdfsPath) folder).inside()), name + " moved")))
                .isTrue();
        Files.delete(other);
        assertThat(MiniCluster.names(folder)).isEmpty();
    }

    @Test
    void aNameThatHdfsHasNotIsRefusedAtOnce() {
        assertThatThrownBy(() -> folder.resolve("12:30.csv"))
                .isInstanceOf(InvalidPathException.class)
                .hasMessageContaining("can have no colon");
    }

    @Test
    void aRenameReplacesOnlyWhatItIsToldTo() throws IOException {
        Path one = Files.writeString(folder.resolve("one"), "1");
        Path two = Files.writeString(folder.resolve("two"), "2");
        assertThatThrownBy(() -> Files.move(one, two)).isInstanceOf(FileAlreadyExistsException.class);
        assertThat(Files.readString(two)).isEqualTo("2");
        Files.move(one, two, StandardCopyOption.REPLACE_EXISTING, StandardCopyOption.ATOMIC_MOVE);
        assertThat(Files.readString(two)).isEqualTo("1");
        assertThat(MiniCluster.names(folder)).containsExactly("two");
        assertThatThrownBy(() -> Files.move(one, two)).isInstanceOf(NoSuchFileException.class);
        // the name node would have put the one into the other
        Path set = Files.createDirectories(folder.resolve("set"));
        Path growing = Files.createDirectories(folder.resolve("growing"));
        assertThatThrownBy(() -> Files.move(growing, set)).isInstanceOf(FileAlreadyExistsException.class);
        assertThat(MiniCluster.names(set)).isEmpty();
    }

    @Test
    void whatIsThereIsKept() throws IOException {
        Path file = Files.writeString(folder.resolve("taxon.csv"), "id\n1\n");
        assertThatThrownBy(() -> Files.newOutputStream(file, StandardOpenOption.CREATE_NEW))
                .isInstanceOf(FileAlreadyExistsException.class);
        assertThatThrownBy(() -> Files.createDirectory(folder)).isInstanceOf(FileAlreadyExistsException.class);
        assertThatThrownBy(() -> Files.delete(folder)).isInstanceOf(DirectoryNotEmptyException.class);
        assertThatThrownBy(() -> Files.delete(folder.resolve("none"))).isInstanceOf(NoSuchFileException.class);
        assertThatThrownBy(() -> Files.newInputStream(folder.resolve("none"))).isInstanceOf(NoSuchFileException.class);
        assertThat(Files.readString(file)).isEqualTo("id\n1\n");
    }

    @Test
    void aFolderOfManyFilesIsListedPageByPage() throws IOException {
        List<String> names = new ArrayList<>();
        org.apache.hadoop.fs.Path inside = new org.apache.hadoop.fs.Path(((HdfsPath) folder).inside());
        for (int i = 0; i < 2_345; i++) {
            String name = String.format(java.util.Locale.ROOT, "part-%05d.csv", i);
            names.add(name);
            MiniCluster.cluster()
                    .getFileSystem()
                    .create(new org.apache.hadoop.fs.Path(inside, name))
                    .close();
        }
        assertThat(MiniCluster.names(folder)).isEqualTo(names);
    }

    @Test
    void whoMayNotIsTold() throws IOException {
        Path locked = Files.createDirectories(folder.resolve("locked"));
        MiniCluster.cluster()
                .getFileSystem()
                .setPermission(
                        new org.apache.hadoop.fs.Path(((HdfsPath) locked).inside()),
                        org.apache.hadoop.fs.permission.FsPermission.createImmutable((short) 0500));
        assertThatThrownBy(() -> Files.writeString(locked.resolve("a"), "a"))
                .isInstanceOf(AccessDeniedException.class)
                .hasMessageContaining("Permission denied: user=quill");
    }

    /** Blocks that nobody lists any more may still be read for a while; what comes is never of two files. */
    @Test
    void aFileThatIsWrittenAnewWhileItIsReadIsReadWholeOrGivenUp() throws IOException {
        Path file = folder.resolve("loan.csv");
        Files.write(file, bytes(3_000_000));
        try (InputStream in = Files.newInputStream(file)) {
            byte[] first = in.readNBytes(1000);
            Files.write(file, bytes(2_999_999));
            byte[] all = Arrays.copyOf(first, 3_000_000);
            try {
                assertThat(in.readNBytes(all, 1000, all.length - 1000)).isEqualTo(all.length - 1000);
                assertThat(all).isEqualTo(bytes(3_000_000));
            } catch (IOException e) {
                assertThat(e).hasMessageContaining(file.toString());
            }
        }
    }

    @Test
    void aNewFileStandsInItsPlaceWhenItIsWhole() throws IOException {
        Path file = folder.resolve("collector.csv");
        NewFile growing = NewFile.begin(file);
        growing.write(bytes(2_000_000));
        assertThat(Files.exists(file)).isFalse();
        growing.close();
        growing.takePlace();
        assertThat(Files.readAllBytes(file)).isEqualTo(bytes(2_000_000));
        assertThat(MiniCluster.names(folder)).containsExactly("collector.csv");
    }

    @Test
    void pathsAreAsJavaWantsThem() {
        Path file = folder.resolve("data/../data/./loan.csv");
        assertThat(file.normalize()).isEqualTo(folder.resolve("data").resolve("loan.csv"));
        assertThat(folder.relativize(file.normalize())).hasToString("data/loan.csv");
        assertThat(folder.resolve("data").relativize(folder)).hasToString("..");
        assertThat(file.normalize().startsWith(folder)).isTrue();
        assertThat(file.normalize().endsWith("data/loan.csv")).isTrue();
        assertThat(folder.resolve("/etc/passwd").startsWith(folder)).isFalse();
        assertThat(folder.resolve("../..").normalize().startsWith(folder)).isFalse();
        assertThat(Path.of(file.toUri())).isEqualTo(file);
        assertThat(file.getRoot().getParent()).isNull();
        assertThat(folder).isNotEqualTo(WrittenPath.read("hdfs://other" + ((HdfsPath) folder).inside()));
    }
}
