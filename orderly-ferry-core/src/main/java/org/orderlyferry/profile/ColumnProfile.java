package org.orderlyferry.profile;

import com.dynatrace.hash4j.hashing.Hasher64;
import com.dynatrace.hash4j.hashing.Hashing;
import java.math.BigDecimal;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.orderlyferry.model.ColumnDefinition;
import org.orderlyferry.record.text.ExactNumber;
import org.orderlyferry.record.text.InvalidValueException;
import org.orderlyferry.record.text.Utf8;

/** What the values of one column look like. Not safe for use by several threads. */
public final class ColumnProfile {

    /** So many decimal digits survive in every double. */
    private static final int SURE_DIGITS = 15;

    private static final Hasher64 HASHER = Hashing.xxh3_64();
    private static final int EXAMPLES = 3;
    private static final int SHOWN = 200;

    private final ColumnDefinition column;
    private final Distinct distinct;
    private final Ascent ascent = new Ascent();
    private final long[] kinds = new long[ValueKind.values().length];
    private final long[] firstLines = new long[ValueKind.values().length];
    private final String[] firstTexts = new String[ValueKind.values().length];
    private final List<String> examples = new ArrayList<>();
    private final DateReadings dates = new DateReadings();
    private final Approximates approximates = new Approximates();
    private long values;
    private long nulls;
    private long empty;
    private int shortest = Integer.MAX_VALUE;
    private int longest;
    private byte[] smallestText;
    private byte[] largestText;
    private BigDecimal smallest;
    private BigDecimal largest;
    private long smallestWhole = Long.MAX_VALUE;
    private long largestWhole = Long.MIN_VALUE;
    private int wholeDigits;
    private int fractionDigits;
    private int secondDigits;
    private final OddWords words = new OddWords();
    private boolean sureAsDouble = true;
    private boolean endless;
    private int spreadWhole;
    private int spreadFraction;

    ColumnProfile(ColumnDefinition column, Distinct.Room room) {
        this.column = column;
        this.distinct = new Distinct(room);
    }

    void addNull() {
        nulls++;
    }

    /** What a value counts by. */
    static long hash(byte[] bytes, int start, int end) {
        return HASHER.hashBytesToLong(bytes, start, end - start);
    }

    /** Takes a value. */
    void add(byte[] bytes, int start, int end, long line) {
        values++;
        long hash = hash(bytes, start, end);
        distinct.add(hash, line);
        if (start == end) {
            empty++;
        }
        if (column.type().name().isBinary()) {
            length(end - start);
            return;
        }
        length(Utf8.characters(bytes, start, end));
        ValueKind kind = ValueKind.of(bytes, start, end);
        ascent.add(bytes, start, end, kind);
        if (kind == ValueKind.TEXT) {
            words.add(bytes, start, end);
        }
        if (kinds[kind.ordinal()]++ == 0) {
            firstLines[kind.ordinal()] = line;
            firstTexts[kind.ordinal()] = text(bytes, start, end);
        }
        switch (kind) {
            case WHOLE -> whole(bytes, start, end);
            case DECIMAL, COMMA -> decimal(bytes, start, end);
            case APPROXIMATE -> approximate(text(bytes, start, end));
            case YEAR_LAST -> dates.add(YearLast.read(bytes, start, end), text(bytes, start, end), line);
            case TIME, TIMESTAMP, INSTANT -> seconds(bytes, start, end);
            default -> {
                // nothing more to know
            }
        }
        // of numbers too: others in the column may make it text
        range(bytes, start, end);
        if (examples.size() < EXAMPLES) {
            String text = text(bytes, start, end);
            if (!examples.contains(text)) {
                examples.add(text);
            }
        }
    }

    private static String text(byte[] bytes, int start, int end) {
        int to = Utf8.lastWhole(bytes, start, Math.min(end, start + SHOWN));
        return new String(bytes, start, to - start, StandardCharsets.UTF_8) + (to < end ? "…" : "");
    }

    private void length(int length) {
        shortest = Math.min(shortest, length);
        longest = Math.max(longest, length);
    }

    private void range(byte[] bytes, int start, int end) {
        int to = Math.min(end, start + SHOWN);
        if (smallestText == null
                || Arrays.compareUnsigned(bytes, start, to, smallestText, 0, smallestText.length) < 0) {
            smallestText = Arrays.copyOfRange(bytes, start, to);
        }
        if (largestText == null || Arrays.compareUnsigned(bytes, start, to, largestText, 0, largestText.length) > 0) {
            largestText = Arrays.copyOfRange(bytes, start, to);
        }
    }

    private void whole(byte[] bytes, int start, int end) {
        int from = bytes[start] == '-' ? start + 1 : start;
        wholeDigits = Math.max(wholeDigits, end - from);
        if (end - from <= 18) {
            long number = 0;
            for (int i = from; i < end; i++) {
                number = number * 10 + bytes[i] - '0';
            }
            number = from == start ? number : -number;
            smallestWhole = Math.min(smallestWhole, number);
            largestWhole = Math.max(largestWhole, number);
        } else {
            number(new BigDecimal(new String(bytes, start, end - start, StandardCharsets.US_ASCII)));
        }
    }

    /** A number with an exponent: among numbers that a double can't hold, it has to be one with a point like them. */
    private void approximate(String text) {
        approximates.add(text);
        try {
            BigDecimal number = ExactNumber.of(text).stripTrailingZeros();
            sureAsDouble &= keeps(number);
            spreadWhole = Math.max(spreadWhole, number.precision() - number.scale());
            spreadFraction = Math.max(spreadFraction, number.scale());
        } catch (NumberFormatException | InvalidValueException e) {
            endless = true;
        }
    }

    /** Whether a double has all digits of a number. */
    private static boolean keeps(BigDecimal number) {
        return number.precision() <= SURE_DIGITS
                || new BigDecimal(Double.toString(number.doubleValue())).compareTo(number) == 0;
    }

    private void decimal(byte[] bytes, int start, int end) {
        String text = new String(bytes, start, end - start, StandardCharsets.US_ASCII).replace(',', '.');
        int from = text.charAt(0) == '-' ? 1 : 0;
        int point = text.indexOf('.');
        wholeDigits = Math.max(wholeDigits, point - from);
        fractionDigits = Math.max(fractionDigits, text.length() - point - 1);
        number(new BigDecimal(text));
    }

    /** Whether a double holds every number whole. */
    boolean fitsDouble() {
        boolean small = wholeDigits <= SURE_DIGITS || smallest == null && wholeDigits <= 18 && fitsExactly();
        return sureAsDouble && small;
    }

    private boolean fitsExactly() {
        return Math.abs(smallestWhole) <= 1L << 53 && Math.abs(largestWhole) <= 1L << 53;
    }

    /** Digits in front of the point of all numbers, those with an exponent written out; -1 where one has no end. */
    int spreadWhole() {
        return endless ? -1 : Math.max(spreadWhole, wholeDigits);
    }

    /** Digits behind the point of all numbers, those with an exponent written out. */
    int spreadFraction() {
        return Math.max(spreadFraction, fractionDigits);
    }

    private void number(BigDecimal number) {
        sureAsDouble &= keeps(number);
        smallest = smallest == null ? number : smallest.min(number);
        largest = largest == null ? number : largest.max(number);
    }

    private void seconds(byte[] bytes, int start, int end) {
        for (int i = start; i < end; i++) {
            if (bytes[i] == '.') {
                int digits = 0;
                while (i + 1 + digits < end && bytes[i + 1 + digits] >= '0' && bytes[i + 1 + digits] <= '9') {
                    digits++;
                }
                secondDigits = Math.max(secondDigits, digits);
                return;
            }
        }
    }

    /** The column, as the file has it. */
    public ColumnDefinition column() {
        return column;
    }

    /** How many values, nulls not counted. */
    public long values() {
        return values;
    }

    /** How many records have no value in it. */
    public long nulls() {
        return nulls;
    }

    /** How many values are the empty text. */
    public long empty() {
        return empty;
    }

    /** How many different values: exact where {@link #isUnique()}, else about. */
    public long distinct() {
        return isAscending() ? values : distinct.estimate();
    }

    /** Whether no value comes twice. */
    public boolean isUnique() {
        return values > 0 && (isAscending() || distinct.isUnique());
    }

    /** Whether there were too many values to find out whether one comes twice. */
    boolean isUnknown() {
        return !isAscending() && distinct.isUnknown();
    }

    private boolean isAscending() {
        return !column.type().name().isBinary() && ascent.holds();
    }

    /** Characters of the shortest value; bytes of a binary one. */
    public int shortest() {
        return values == 0 ? 0 : shortest;
    }

    /** Characters of the longest value; bytes of a binary one. */
    public int longest() {
        return longest;
    }

    /** A few of its values, the first ones that differ. */
    public List<String> examples() {
        return List.copyOf(examples);
    }

    /** The smallest value: of numbers where all are, of days where all are, else of texts by their code points. */
    public Optional<String> smallest() {
        Optional<BigDecimal> number = numeric(smallestWhole == Long.MAX_VALUE ? null : smallestWhole, smallest, true);
        return approximates
                .least(number)
                .filter(t -> isAllNumbers())
                .or(() -> dates.earliest().filter(t -> count(ValueKind.YEAR_LAST) == values))
                .or(() -> text(smallestText));
    }

    /** The largest value, as {@link #smallest()}. */
    public Optional<String> largest() {
        Optional<BigDecimal> number = numeric(largestWhole == Long.MIN_VALUE ? null : largestWhole, largest, false);
        return approximates
                .most(number)
                .filter(t -> isAllNumbers())
                .or(() -> dates.latest().filter(t -> count(ValueKind.YEAR_LAST) == values))
                .or(() -> text(largestText));
    }

    private Optional<BigDecimal> numeric(Long whole, BigDecimal other, boolean least) {
        BigDecimal one = whole == null ? null : BigDecimal.valueOf(whole);
        if (one == null || other == null) {
            return Optional.ofNullable(one == null ? other : one);
        }
        return Optional.of(least ? one.min(other) : one.max(other));
    }

    private boolean isAllNumbers() {
        return count(ValueKind.WHOLE) + count(ValueKind.DECIMAL) + count(ValueKind.COMMA) + count(ValueKind.APPROXIMATE)
                == values;
    }

    private static Optional<String> text(byte[] bytes) {
        return bytes == null ? Optional.empty() : Optional.of(text(bytes, 0, bytes.length));
    }

    Distinct distincts() {
        return distinct;
    }

    long count(ValueKind kind) {
        return kinds[kind.ordinal()];
    }

    long firstLine(ValueKind kind) {
        return firstLines[kind.ordinal()];
    }

    String firstText(ValueKind kind) {
        return firstTexts[kind.ordinal()];
    }

    /** Words that may stand for nothing, with how often each comes. */
    Map<String, Long> words() {
        return words.nothing();
    }

    /** How many numbers have no digit in front of the point. */
    long bareFractions() {
        return words.bareFractions();
    }

    String firstBareFraction() {
        return words.firstBareFraction();
    }

    /** How many days are written in another known way. */
    long otherDays() {
        return words.days();
    }

    String firstOtherDay() {
        return words.firstDay();
    }

    String otherDayFormat() {
        return words.dayFormat();
    }

    DateReadings dates() {
        return dates;
    }

    int wholeDigits() {
        return wholeDigits;
    }

    int fractionDigits() {
        return fractionDigits;
    }

    int secondDigits() {
        return secondDigits;
    }

    boolean fitsInteger() {
        return wholeDigits <= 10 && smallestWhole >= Integer.MIN_VALUE && largestWhole <= Integer.MAX_VALUE;
    }

    boolean fitsBigint() {
        return smallest == null || fractionDigits == 0 && isLong(smallest) && isLong(largest);
    }

    private static boolean isLong(BigDecimal number) {
        return number.toBigInteger().bitLength() < Long.SIZE;
    }
}
