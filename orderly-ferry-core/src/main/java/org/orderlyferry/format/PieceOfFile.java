package org.orderlyferry.format;

import java.io.IOException;
import java.io.InputStream;
import java.nio.ByteBuffer;
import java.nio.channels.Channels;
import java.nio.channels.SeekableByteChannel;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Optional;
import org.apiguardian.api.API;

/** A piece of a file on the disk, as if it were a file of its own whose lines are counted on. */
@API(status = API.Status.INTERNAL)
public final class PieceOfFile extends ForwardingSource {

    private final FilePiece piece;

    /** A piece of a file that {@link FileFormat#cut} has given. */
    public PieceOfFile(FileSource file, FilePiece piece) {
        super(file);
        this.piece = piece;
    }

    @Override
    public long firstLine() {
        return piece.line();
    }

    @Override
    public InputStream open() throws IOException {
        Path path = file().seekable().orElseThrow(() -> new IOException("only a file on the disk has pieces"));
        SeekableByteChannel channel = Files.newByteChannel(path);
        try {
            mustBeginBehindALine(channel);
            channel.position(piece.from());
            InputStream in = Channels.newInputStream(channel);
            return piece.to() < 0 ? in : new EndingStream(in, piece.to() - piece.from());
        } catch (IOException | RuntimeException e) {
            channel.close();
            throw e;
        }
    }

    /** A file that was written anew since it was cut is most likely to be found out by this. */
    private void mustBeginBehindALine(SeekableByteChannel channel) throws IOException {
        if (piece.to() > channel.size()) {
            throw new IOException("it is shorter than it was when it was cut into pieces");
        }
        if (piece.from() > 0) {
            ByteBuffer before = ByteBuffer.allocate(1);
            channel.position(piece.from() - 1).read(before);
            byte last = before.array()[0];
            if (before.hasRemaining() || last != '\n' && last != '\r') {
                throw new IOException("it isn't as it was when it was cut into pieces");
            }
        }
    }

    @Override
    public Optional<Path> seekable() {
        return Optional.empty();
    }

    @Override
    public Optional<Path> onDisk() {
        return Optional.empty();
    }

    @Override
    public long bytes() {
        return (piece.to() < 0 ? file().bytes() : piece.to()) - piece.from();
    }

    /** A piece is only known together with its file. */
    @Override
    public Optional<String> state() {
        return Optional.empty();
    }
}
