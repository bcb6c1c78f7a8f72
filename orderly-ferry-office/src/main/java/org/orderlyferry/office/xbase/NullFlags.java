package org.orderlyferry.office.xbase;

import java.util.Arrays;
import java.util.List;

/**
 * The bits of each record that say what its fields can't: which are null, and which values of varying length don't fill
 * their field. They go in the fields' order, that of the length before that of null.
 */
final class NullFlags {

    /** There is no such bit. */
    static final int NONE = -1;

    private final int[] ofNull;
    private final int[] ofLength;
    private final int offset;

    /** The flags of records with these fields, which begin at these offsets. */
    NullFlags(List<XbaseField> fields, int[] offsets) {
        ofNull = new int[fields.size()];
        ofLength = new int[fields.size()];
        Arrays.fill(ofNull, NONE);
        Arrays.fill(ofLength, NONE);
        int bit = 0;
        int found = NONE;
        for (int i = 0; i < fields.size(); i++) {
            XbaseField field = fields.get(i);
            if (field.isVarying()) {
                ofLength[i] = bit++;
            }
            if (field.nullable() && field.type() != XbaseField.FLAGS) {
                ofNull[i] = bit++;
            }
            found = field.type() == XbaseField.FLAGS ? offsets[i] : found;
        }
        offset = found;
    }

    int ofNull(int field) {
        return ofNull[field];
    }

    int ofLength(int field) {
        return ofLength[field];
    }

    boolean isSet(byte[] record, int bit) {
        int at = offset + bit / Byte.SIZE;
        return bit != NONE && offset != NONE && at < record.length && (record[at] >> bit % Byte.SIZE & 1) != 0;
    }
}
