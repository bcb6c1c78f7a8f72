package org.orderlyferry.reconcile;

/** Records that differ, by the digests of their keys and of themselves, and what is the matter with each key. */
final class DifferingKeys {

    private final EntryCounts entries = new EntryCounts();
    private final EntryCounts atSource = new EntryCounts();
    private final EntryCounts atTarget = new EntryCounts();
    private int keys;

    /** Adds one that one side has more often: the source, if the count is positive. */
    void add(long keyHigh, long keyLow, long high, long low, int count) {
        if (atSource(keyHigh, keyLow) == 0 && atTarget(keyHigh, keyLow) == 0) {
            keys++;
        }
        entries.add(keyHigh, keyLow, high, low, count);
        if (count > 0) {
            atSource.add(keyHigh, keyLow, 0, 0, count);
        } else {
            atTarget.add(keyHigh, keyLow, 0, 0, -count);
        }
    }

    /** How many keys there are of which records differ. */
    int size() {
        return keys;
    }

    EntryCounts entries() {
        return entries;
    }

    /** How many records of a key are still to be found at the source. */
    int atSource(long keyHigh, long keyLow) {
        return atSource.count(keyHigh, keyLow, 0, 0);
    }

    /** How many records of a key are still to be found at the target. */
    int atTarget(long keyHigh, long keyLow) {
        return atTarget.count(keyHigh, keyLow, 0, 0);
    }

    /** One that was looked for at the source was found there. */
    void foundAtSource(long keyHigh, long keyLow, long high, long low) {
        entries.add(keyHigh, keyLow, high, low, -1);
        atSource.add(keyHigh, keyLow, 0, 0, -1);
    }

    /** One that was looked for at the target was found there. */
    void foundAtTarget(long keyHigh, long keyLow, long high, long low) {
        entries.add(keyHigh, keyLow, high, low, 1);
        atTarget.add(keyHigh, keyLow, 0, 0, -1);
    }

    /** How many there are of each kind. */
    RowCounts counts() {
        long[] sums = new long[3];
        atSource.each((kh, kl, h, l, source) -> {
            int both = Math.min(source, atTarget(kh, kl));
            sums[0] += source - both;
            sums[2] += both;
        });
        atTarget.each((kh, kl, h, l, target) -> sums[1] += target - Math.min(target, atSource(kh, kl)));
        return new RowCounts(sums[0], sums[1], sums[2]);
    }

    /** Those of the first few keys alone. */
    DifferingKeys first(long most) {
        if (keys <= most) {
            return this;
        }
        EntryCounts chosen = new EntryCounts();
        long[] left = {most};
        entries.each((kh, kl, h, l, count) -> {
            if (left[0] > 0 && chosen.count(kh, kl, 0, 0) == 0) {
                chosen.add(kh, kl, 0, 0, 1);
                left[0]--;
            }
        });
        DifferingKeys first = new DifferingKeys();
        entries.each((kh, kl, h, l, count) -> {
            if (chosen.count(kh, kl, 0, 0) != 0) {
                first.add(kh, kl, h, l, count);
            }
        });
        return first;
    }
}
