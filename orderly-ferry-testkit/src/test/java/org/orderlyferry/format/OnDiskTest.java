package org.orderlyferry.format;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.junit.jupiter.api.Assumptions.assumeTrue;

import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.io.SequenceInputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.FileSystems;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermissions;
import org.junit.jupiter.api.Test;
import org.orderlyferry.io.TemporaryFolder;
import org.orderlyferry.testkit.doubles.BytesSource;

class OnDiskTest {

    private static final byte[] CONTENT = "id,note\n1,moss\n".getBytes(StandardCharsets.UTF_8);

    @Test
    void aCopyIsItsOwnersAlone() throws Exception {
        assumeTrue(FileSystems.getDefault().supportedFileAttributeViews().contains("posix"), "no POSIX file system");
        Path path;
        try (OnDisk file = new OnDisk(new BytesSource("label.xls", CONTENT))) {
            path = file.path();
            assertThat(path).hasBinaryContent(CONTENT);
            assertThat(PosixFilePermissions.toString(Files.getPosixFilePermissions(path)))
                    .isEqualTo("rw-------");
        }
        assertThat(path).doesNotExist();
    }

    /** One that a connection to elsewhere gave half of. */
    @Test
    void ofAFileThatCantBeReadToItsEndNothingStays() {
        InputStream lost = new InputStream() {
            @Override
            public int read() throws IOException {
                throw new IOException("the connection is lost");
            }
        };
        FileSource half = new BytesSource("label.xls", CONTENT).through(in -> new SequenceInputStream(in, lost));
        assertThatThrownBy(() -> new OnDisk(half, ".half-of-it")).hasMessage("the connection is lost");
        assertThat(Path.of(System.getProperty("java.io.tmpdir")))
                .isDirectoryNotContaining(p -> p.toString().endsWith(".half-of-it"));
    }

    @Test
    void whereRoomIsLackingIsSaid() throws Exception {
        Path full = Path.of("/dev/full");
        assumeTrue(Files.exists(full), "no device that is always full");
        try (OutputStream out = TemporaryFolder.into(full)) {
            assertThatThrownBy(() -> out.write(CONTENT))
                    .isInstanceOf(IOException.class)
                    .hasMessageStartingWith("in the temporary folder, " + TemporaryFolder.path() + ": ");
        }
    }
}
