package org.orderlyferry.format.csv;

/** Goes through a chunk's marks in order: those of the unfinished record in front of it are found now, its own are known. */
final class Marks {

    private static final int BLOCK = 16 * 1024;

    private final MarkFinder finder;
    private final int[] found = new int[BLOCK + 2 * Long.SIZE];
    private Chunk chunk;
    private byte[] bytes;
    private int[] places;
    private int marked;
    private int findTo;
    private int count;
    private int next;

    Marks(MarkFinder finder) {
        this.finder = finder;
    }

    /**
     * Begins a chunk.
     *
     * @param from where the first record begins, in the chunk or in front of it
     */
    void start(Chunk newChunk, int from) {
        chunk = newChunk;
        bytes = newChunk.bytes;
        marked = from;
        findTo = newChunk.marks == null ? newChunk.end : Math.max(from, newChunk.start);
        places = found;
        count = 0;
        next = 0;
    }

    /** The next mark's place, or the chunk's end where there are no more. */
    int next() {
        return next < count || more() ? places[next++] : chunk.end;
    }

    private boolean more() {
        next = 0;
        count = 0;
        while (count == 0 && marked < findTo) {
            int from = marked;
            marked = Math.min(from + BLOCK, findTo);
            count = finder.find(bytes, from, marked, found);
        }
        if (count == 0 && marked < chunk.end) {
            places = chunk.marks;
            count = chunk.count;
            // a byte-order mark, which no record begins with, has none
            marked = chunk.end;
        }
        return count > 0;
    }

    /**
     * Takes the next marks as long as they are delimiters, writing where each field begins and ends. Stops at the first
     * mark that is something else, at the end of what has been marked, or when there is no more room.
     *
     * @param field where the first field begins
     * @param from the first index of {@code starts} and {@code ends} to write to
     * @param emptyEnd what to write as the end of a field with nothing in it
     * @return how many fields there are now
     */
    int fields(byte delimiter, int field, int[] starts, int[] ends, int from, int emptyEnd) {
        byte[] source = bytes;
        int[] at = places;
        int i = next;
        int stop = Math.min(count, i + starts.length - from);
        int n = from;
        int start = field;
        while (i < stop) {
            int p = at[i];
            if (source[p] != delimiter) {
                break;
            }
            starts[n] = start;
            ends[n] = p == start ? emptyEnd : p;
            n++;
            i++;
            start = p + 1;
        }
        next = i;
        return n;
    }
}
