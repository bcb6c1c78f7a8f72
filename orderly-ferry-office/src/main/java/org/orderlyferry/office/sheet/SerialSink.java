package org.orderlyferry.office.sheet;

import java.math.BigDecimal;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.LocalTime;

/** Cells of a kind of spreadsheet in which days and times are numbers that are shown so. */
public abstract class SerialSink implements SheetSink {

    /** Puts a number that is shown in a format. */
    protected abstract void serial(int place, BigDecimal serial, String format);

    @Override
    public final boolean day(int place, LocalDate day) {
        if (!Serials.holds(day)) {
            return false;
        }
        serial(place, Serials.of(day), "yyyy-mm-dd");
        return true;
    }

    @Override
    public final boolean time(int place, LocalTime time) {
        if (!Serials.holds(time)) {
            return false;
        }
        serial(place, Serials.of(time), time.getNano() == 0 ? "hh:mm:ss" : "hh:mm:ss.000");
        return true;
    }

    @Override
    public final boolean moment(int place, LocalDateTime moment) {
        if (!Serials.holds(moment.toLocalDate()) || !Serials.holds(moment.toLocalTime())) {
            return false;
        }
        serial(place, Serials.of(moment), moment.getNano() == 0 ? "yyyy-mm-dd hh:mm:ss" : "yyyy-mm-dd hh:mm:ss.000");
        return true;
    }
}
