package org.orderlyferry.testkit.faults;

import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.MappedByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.channels.FileLock;
import java.nio.channels.ReadableByteChannel;
import java.nio.channels.WritableByteChannel;

/** A channel that hands everything on, and says when something is written. */
abstract class ForwardingChannel extends FileChannel {

    private final FileChannel channel;

    ForwardingChannel(FileChannel channel) {
        this.channel = channel;
    }

    abstract void beforeWriting() throws IOException;

    @Override
    public int read(ByteBuffer bytes) throws IOException {
        return channel.read(bytes);
    }

    @Override
    public long read(ByteBuffer[] bytes, int from, int count) throws IOException {
        return channel.read(bytes, from, count);
    }

    @Override
    public int read(ByteBuffer bytes, long position) throws IOException {
        return channel.read(bytes, position);
    }

    @Override
    public int write(ByteBuffer bytes) throws IOException {
        beforeWriting();
        return channel.write(bytes);
    }

    @Override
    public long write(ByteBuffer[] bytes, int from, int count) throws IOException {
        beforeWriting();
        return channel.write(bytes, from, count);
    }

    @Override
    public int write(ByteBuffer bytes, long position) throws IOException {
        beforeWriting();
        return channel.write(bytes, position);
    }

    @Override
    public long position() throws IOException {
        return channel.position();
    }

    @Override
    public FileChannel position(long position) throws IOException {
        channel.position(position);
        return this;
    }

    @Override
    public long size() throws IOException {
        return channel.size();
    }

    @Override
    public FileChannel truncate(long size) throws IOException {
        beforeWriting();
        channel.truncate(size);
        return this;
    }

    @Override
    public void force(boolean metaData) throws IOException {
        channel.force(metaData);
    }

    @Override
    public long transferTo(long position, long count, WritableByteChannel to) throws IOException {
        return channel.transferTo(position, count, to);
    }

    @Override
    public long transferFrom(ReadableByteChannel from, long position, long count) throws IOException {
        beforeWriting();
        return channel.transferFrom(from, position, count);
    }

    @Override
    public MappedByteBuffer map(MapMode mode, long position, long size) throws IOException {
        return channel.map(mode, position, size);
    }

    /** The lock is the real channel's; closing this one lets go of it. */
    @Override
    public FileLock lock(long position, long size, boolean shared) throws IOException {
        return channel.lock(position, size, shared);
    }

    @Override
    public FileLock tryLock(long position, long size, boolean shared) throws IOException {
        return channel.tryLock(position, size, shared);
    }

    @Override
    protected void implCloseChannel() throws IOException {
        channel.close();
    }
}
