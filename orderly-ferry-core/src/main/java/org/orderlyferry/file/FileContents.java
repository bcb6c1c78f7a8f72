package org.orderlyferry.file;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Supplier;
import java.util.stream.Stream;
import org.orderlyferry.csvw.CellRule;
import org.orderlyferry.format.FileFormat;
import org.orderlyferry.format.FileSettings;
import org.orderlyferry.format.FileSource;
import org.orderlyferry.format.Outline;
import org.orderlyferry.format.Proposing;
import org.orderlyferry.format.ValueStyle;
import org.orderlyferry.model.Finding;
import org.orderlyferry.model.FindingCode;
import org.orderlyferry.model.LeftBehind;
import org.orderlyferry.model.TableDefinition;
import org.orderlyferry.model.TableName;
import org.orderlyferry.problem.FerryException;
import org.orderlyferry.problem.Listed;
import org.orderlyferry.problem.MalformedFileException;
import org.orderlyferry.problem.Origin;
import org.orderlyferry.problem.UsageException;
import org.orderlyferry.profile.Proposal;
import org.orderlyferry.profile.TableProfile;
import org.orderlyferry.record.Rejects;

/**
 * What is known of a file's tables: by a description, by the file itself, or by looking at all of its values, which is done
 * when it is first asked for.
 */
final class FileContents {

    private final FileSource file;
    private final FileFormat format;
    private final FileRecords records;
    private final FileSettings settings;
    private final Proposing proposing;
    private final Description description;
    /** How the file is looked at: as the settings say, or in another encoding where they can't be right. */
    private FileSettings seen;
    /** What shows that the settings' encoding can't be right: the values may be looked at, but not moved. */
    private Optional<MalformedFileException> misread = Optional.empty();

    private final Map<TableName, Known> tables = new LinkedHashMap<>();
    private final List<LeftBehind> undescribed = new ArrayList<>();
    private final Map<TableName, Map<String, CellRule>> rules = new LinkedHashMap<>();

    /** What is known of a table. */
    private static final class Known {
        private final Outline outline;
        private final Map<String, ValueStyle> styles;
        private Proposal proposal;
        private TableProfile profile;

        Known(Outline outline, Map<String, ValueStyle> styles) {
            this.outline = outline;
            this.styles = styles;
        }

        boolean isProposed() {
            return outline.source() != Outline.Source.DEFINITIONS;
        }
    }

    FileContents(FileRecords records, FileSettings settings, Proposing proposing, Description description) {
        this.file = records.file();
        this.format = records.format();
        this.records = records;
        this.settings = settings;
        this.proposing = proposing;
        this.description = description;
        this.seen = settings;
        if (description.isThere()) {
            for (TableDefinition table : description.tables()) {
                put(new Outline(table, Outline.Source.DEFINITIONS), description.styles(table.name()));
                rules.put(table.name(), description.rules(table.name()));
            }
            undescribed();
        } else {
            looking(() -> format.outline(file, seen)).forEach(outline -> put(outline, Map.of()));
        }
    }

    /** What is in the file, and not in its definitions, doesn't move; somebody may have put it there later. */
    private void undescribed() {
        List<TableName> told = looking(() -> format.tablesTold(file, seen));
        if (told.size() == 1 && tables.size() == 1) {
            // one table needs no name to be found
            return;
        }
        told.stream()
                .filter(name -> !tables.containsKey(name))
                .forEach(name -> undescribed.add(new LeftBehind(
                        "table", name.toString(), "is in " + file.name() + ", and not in its definitions")));
    }

    /** Looks at the file, and once more in another encoding if it can't be in the one that was taken. */
    private <T> T looking(Supplier<T> look) {
        try {
            return look.get();
        } catch (StackOverflowError e) {
            throw new UsageException("the schema of " + file.shown() + " refers to itself without end", e);
        } catch (OutOfMemoryError e) {
            throw LargeRecords.tooLarge(new Origin("", file.shown(), 0, true));
        } catch (MalformedFileException e) {
            if (!e.isOfEncoding()) {
                throw e;
            }
            misread = misread.isEmpty() ? Optional.of(e) : misread;
            seen = StandIns.next(seen)
                    .map(encoding -> HeadingMatch.of(file, format, settings.with("encoding", encoding), description))
                    .orElseThrow(() -> e);
            return looking(look);
        } catch (FerryException e) {
            throw e;
        } catch (RuntimeException e) {
            throw LargeRecords.broken("", file.shown(), 0, e);
        }
    }

    private void put(Outline outline, Map<String, ValueStyle> styles) {
        if (tables.put(outline.table().name(), new Known(outline, styles)) != null) {
            throw new UsageException(
                    file.shown() + " has two tables " + outline.table().name());
        }
    }

    private Known known(TableName name) {
        Known known = tables.get(name);
        if (known == null) {
            throw new UsageException(
                    "there is no table " + name + " in " + file.shown() + "; it has " + Listed.of(tables.keySet()));
        }
        return known;
    }

    List<TableName> names() {
        return tables.keySet().stream().sorted().toList();
    }

    /** How the file is written, as far as is known. */
    FileSettings form() {
        return format.complete(file, seen);
    }

    /** A table with the columns that the file has, before types are proposed. */
    TableDefinition asItStands(TableName name) {
        return known(name).outline.table();
    }

    /** A table with the types that are given, or proposed from all of its values. */
    TableDefinition define(TableName name) {
        Known known = known(name);
        if (!known.isProposed()) {
            return known.outline.table();
        }
        TableDefinition proposed = proposal(known).table();
        mustBeReadable();
        return proposed;
    }

    boolean isProposed(TableName name) {
        return known(name).isProposed();
    }

    Proposal propose(TableName name) {
        return proposal(known(name));
    }

    TableProfile profile(TableName name) {
        return profile(known(name));
    }

    /** How many records a table has, where they have been looked at. */
    Optional<Long> seenRows(TableName name) {
        return Optional.ofNullable(known(name).profile).map(TableProfile::rows);
    }

    /** How the values of a table's columns are written. */
    Map<String, ValueStyle> styles(TableName name) {
        Known known = known(name);
        return known.isProposed() ? proposal(known).styles() : known.styles;
    }

    Map<String, CellRule> rules(TableName name) {
        return rules.getOrDefault(name, Map.of());
    }

    List<LeftBehind> leftBehind() {
        return Stream.concat(
                        undescribed.stream(), tables.values().stream().flatMap(k -> k.outline.leftBehind().stream()))
                .toList();
    }

    /** What is odd about how the file's tables stand in it. */
    List<Finding> findings() {
        return tables.values().stream()
                .flatMap(k -> k.outline.findings().stream())
                .toList();
    }

    /** What is moved has to be right: an encoding that was only taken to look at values isn't. */
    void mustBeReadable() {
        misread.ifPresent(e -> {
            throw e;
        });
    }

    /** Looked at once, whoever asks first. */
    private synchronized TableProfile profile(Known known) {
        if (known.profile == null) {
            known.profile = looking(() -> profiled(known));
        }
        return known.profile;
    }

    private TableProfile profiled(Known known) {
        List<Finding> broken = new ArrayList<>();
        TableDefinition table = known.outline.table();
        misread.ifPresent(e -> broken.add(Finding.of(
                FindingCode.RECORD_ODD,
                table.name(),
                "line " + e.origin().line() + ": " + e.what() + "; it is shown as if in "
                        + seen.text("encoding").orElseThrow())));
        Oddities odd = new Oddities(table.name(), broken);
        return TableProfile.of(
                        () -> new AheadReader(records.open(table, seen, odd)),
                        () -> new AheadReader(records.open(table, seen, Rejects.UNHEARD)),
                        known.outline.findings(),
                        broken)
                .withRejected(odd.count());
    }

    private synchronized Proposal proposal(Known known) {
        if (known.proposal == null) {
            known.proposal =
                    Proposal.of(profile(known), known.outline.source(), format.toldStyles(settings), decided());
        }
        return known.proposal;
    }

    /** A key that is told is one table's. */
    private Proposing decided() {
        if (proposing.key().isPresent() && tables.size() > 1) {
            throw new UsageException(
                    file.shown() + " has several tables, and a key was told for one; the definitions of"
                            + " each can be written down, changed and given back");
        }
        return proposing;
    }
}
