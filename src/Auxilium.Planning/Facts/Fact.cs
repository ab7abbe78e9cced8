using System.Collections.Immutable;
using System.Diagnostics.CodeAnalysis;
using Auxilium.Planning.Editing;
using Auxilium.Planning.Plans;
using Auxilium.Planning.Scheduling;
using Auxilium.Planning.Typing;
using Auxilium.Planning.Words;

namespace Auxilium.Planning.Facts;

/// <summary>
/// A plain fact of a task: one that no date depends on. From its declaration come the edit that sets it, what takes that back, what is
/// said of it, and how it is kept, read, written, described, copied and pasted. A new one is a class and a line in
/// <see cref="PlainFacts"/>.
/// </summary>
public abstract class Fact
{
    /// <param name="name">Where it is not known from the class.</param>
    private protected Fact(string? name = null) =>
        Field = new EditField(Capital(name ?? Name), (schedule, task) => InWordsIn(schedule.Plan, task.Facts[this]));

    /// <summary>Its name in JSON, in documents and where it is kept: <c>costCode</c>. It never changes.</summary>
    public abstract string Name { get; }

    /// <summary>What people call it, in the middle of a sentence: “cost code”.</summary>
    public abstract string Title { get; }

    /// <summary>What its value is called in the edit that sets it.</summary>
    public virtual string ValueName => Name;

    /// <summary>Whether copies of a task have it, and what comes of a task that repeats.</summary>
    public virtual bool IsCopied => true;

    /// <summary>Whether its values are ids of rows of the same plan.</summary>
    public virtual bool NamesRow => false;

    /// <summary>What a read-only link has to show for it to be seen; <c>null</c> for a fact that links never show.</summary>
    public virtual string? SharedWith => null;

    /// <summary>What people write above a column of it in a list, in small letters, with commas between.</summary>
    public virtual string Headings => Title;

    /// <summary>The part of a row that it is: where its refusal is shown, and where two people can collide.</summary>
    public EditField Field { get; }

    /// <summary>The kind of edit that sets it.</summary>
    public abstract EditKind Edit { get; }

    /// <summary>What a task has that says nothing of it.</summary>
    public abstract object? UsualValue { get; }

    /// <summary>Its values: <see cref="string"/>, <see cref="int"/> or <see cref="bool"/>.</summary>
    public abstract Type ValueType { get; }

    /// <summary>A value as its cell would show it, to tell two people what each of them wanted.</summary>
    public abstract string InWords(object? value);

    /// <inheritdoc cref="InWords(object?)"/>
    public virtual string InWordsIn(Plan plan, object? value) => InWords(value);

    /// <summary>Reads a value as people type it; an empty text is the usual value.</summary>
    /// <param name="problem">The sentence that says what is wrong with it.</param>
    public abstract bool TryType(string text, out object? value, [NotNullWhen(false)] out string? problem);

    /// <summary>The edit that gives a task a value of the type of the fact.</summary>
    public abstract PlanEdit Give(string task, object? value);

    private static string Capital(string name) => char.ToUpperInvariant(name[0]) + name[1..];
}

/// <summary>A fact that is a word or a line of text; <c>null</c> for none.</summary>
public interface ITextFact
{
    string Name { get; }

    /// <summary>It is at most this many characters.</summary>
    int Longest { get; }

    /// <summary>The words to choose from; empty for any text.</summary>
    ImmutableArray<string> Choices { get; }

    /// <summary>A text without what does not matter, such as spaces around it.</summary>
    string? Tidy(string? value);

    /// <inheritdoc cref="Fact{TFact, TValue}.WhyRefused"/>
    string? WhyRefused(string? value);
}

/// <summary>A fact that is a whole number.</summary>
public interface INumberFact
{
    string Name { get; }

    int Least { get; }

    int Most { get; }

    /// <inheritdoc cref="Fact{TFact, TValue}.WhyRefused"/>
    string? WhyRefused(int value);
}

/// <summary>A fact that is so or not.</summary>
public interface IYesNoFact;

/// <summary>A fact with values of one type.</summary>
/// <typeparam name="TFact">The fact itself.</typeparam>
/// <typeparam name="TValue">The type of its values.</typeparam>
public abstract class Fact<TFact, TValue> : Fact
    where TFact : Fact<TFact, TValue>, new()
{
    /// <summary>The one there is.</summary>
    internal static TFact It { get; } = new();

    private static readonly EditKind Kind = EditKind.Of<SetFact<TFact, TValue>>();

    public sealed override EditKind Edit => Kind;

    public override Type ValueType => typeof(TValue);

    public sealed override object? UsualValue => Usual;

    public virtual TValue Usual => default!;

    public TValue Of(IHasFacts task) => (TValue)task.Facts[this]!;

    public FactValues On(FactValues facts, TValue value) => facts.With(this, value);

    public SetFact<TFact, TValue> Give(string task, TValue value) => new(task, value);

    public sealed override PlanEdit Give(string task, object? value) => Give(task, (TValue)value!);

    public sealed override string InWords(object? value) => InWords((TValue)value!);

    /// <summary>A value as its cell would show it.</summary>
    public abstract string InWords(TValue value);

    /// <summary>A value without what does not matter, such as spaces around it.</summary>
    public virtual TValue Tidy(TValue value) => value;

    /// <summary>The value that a typed one means in a plan.</summary>
    /// <exception cref="EditRefusedException">It means none.</exception>
    internal virtual TValue Resolve(Plan plan, PlanTask task, TValue value, EditContext context) => value;

    /// <summary>The sentence that says what is wrong with a value; <c>null</c> when nothing is.</summary>
    public abstract string? WhyRefused(TValue value);

    /// <summary>What is said of a task that got a value, after its name: “ is labelled print.”</summary>
    /// <param name="many">Whether it is said of several tasks: “ are labelled print.”</param>
    internal abstract IEnumerable<TextRun> Says(TValue value, bool many);

    /// <inheritdoc cref="Says"/>
    internal virtual IEnumerable<TextRun> SaysIn(Plan plan, TValue value, bool many) => Says(value, many);

    /// <summary>A random value, such as may be taken or refused.</summary>
    internal abstract TValue Sample(Random random);
}

/// <summary>A word or a line of text; <c>null</c> for none.</summary>
public abstract class TextFact<TFact> : Fact<TFact, string?>, ITextFact
    where TFact : Fact<TFact, string?>, new()
{
    /// <inheritdoc/>
    public abstract int Longest { get; }

    /// <inheritdoc/>
    public virtual ImmutableArray<string> Choices => [];

    public override string InWords(string? value) => value ?? $"no {Title}";

    public override string? Tidy(string? value) => value?.Trim() is { Length: > 0 } text ? text : null;

    public override string? WhyRefused(string? value) =>
        value is null ? null
        : Choices.Length > 0
            ? Choices.Contains(value) ? null
                : $"“{LengthText.Shorten(value)}” is not a {Title} that rows can have: use {string.Join(", ", Choices)}, or none."
        : value.Length > Longest ? $"A {Title} has at most {Longest} characters: shorten it."
        : value.Any(char.IsControl) ? $"A {Title} is one line of text: leave out line breaks and control characters."
        : null;

    public override bool TryType(string text, out object? value, [NotNullWhen(false)] out string? problem)
    {
        var typed = Tidy(text);
        value = Choices.FirstOrDefault(choice => choice.Equals(typed, StringComparison.OrdinalIgnoreCase)) ?? typed;
        problem = WhyRefused((string?)value);
        return problem is null;
    }

    internal override IEnumerable<TextRun> Says(string? value, bool many) =>
        (value, many) switch
        {
            (null, false) => [new($" has no {Title} now.")],
            (null, true) => [new($" have no {Title} now.")],
            ({ } text, false) => [new($" has the {Title} "), new(text, true), new(".")],
            ({ } text, true) => [new($" have the {Title} "), new(text, true), new(".")],
        };

    internal override string? Sample(Random random) =>
        random.Next(3) == 0 ? null
        : Choices.Length > 0 ? Choices[random.Next(Choices.Length)]
        : $"{Title} {random.Next(10)}";
}

/// <summary>A whole number.</summary>
public abstract class NumberFact<TFact> : Fact<TFact, int>, INumberFact
    where TFact : Fact<TFact, int>, new()
{
    public abstract int Least { get; }

    public abstract int Most { get; }

    public override string InWords(int value) => $"{Title} {value}";

    public override string? WhyRefused(int value) => value >= Least && value <= Most ? null : Rule;

    public override bool TryType(string text, out object? value, [NotNullWhen(false)] out string? problem)
    {
        value = Usual;
        problem = null;
        if (text.Trim().Length == 0)
            return true;
        if (!int.TryParse(text, System.Globalization.CultureInfo.InvariantCulture, out var number))
            problem = Rule;
        else
            (value, problem) = (number, WhyRefused(number));
        return problem is null;
    }

    /// <summary>What numbers it may be, in a sentence.</summary>
    public string Rule => $"{char.ToUpperInvariant(Title[0])}{Title[1..]} is a whole number from {Least} to {Most}; {Usual} is usual.";

    internal override IEnumerable<TextRun> Says(int value, bool many) => [new($" {(many ? "have" : "has")} {Title} {value}.")];

    internal override int Sample(Random random) => random.Next(Least, Most + 1);
}

/// <summary>Something that is so or not.</summary>
public abstract class YesNoFact<TFact> : Fact<TFact, bool>, IYesNoFact
    where TFact : Fact<TFact, bool>, new()
{
    public override string InWords(bool value) => value ? Title : $"not {Title}";

    public override string? WhyRefused(bool value) => null;

    public override bool TryType(string text, out object? value, [NotNullWhen(false)] out string? problem)
    {
        var isRead = YesNoText.TryParse(text, out var isYes, out problem);
        value = isYes;
        return isRead;
    }

    internal override bool Sample(Random random) => random.Next(2) == 0;
}

/// <summary>Gives a task a fact.</summary>
/// <typeparam name="TFact">Which one.</typeparam>
public sealed record SetFact<TFact, TValue>(string Task, TValue Value) : PlanEdit, IEditKind
    where TFact : Fact<TFact, TValue>, new()
{
    private static TFact Fact => Fact<TFact, TValue>.It;

    static string IEditKind.Wire => $"set{Fact.Field.Name}";

    public override EditTraits Traits => new(Task, Fact.Field, EditRight.Edit);

    public override string Many => "marks changed";

    internal override AppliedEdit Apply(Plan plan, EditContext context)
    {
        var task = PlanEditor.TaskOf(plan, Task);
        var value = Fact.Tidy(Fact.Resolve(plan, task, Value, context));
        if (Fact.WhyRefused(value) is { } why)
            throw new EditRefusedException(Fact.Name, why, task.Id, Fact.Field);
        return PlanEditor.Changed(
            plan,
            task with
            {
                Facts = Fact.On(task.Facts, value),
            },
            this with
            {
                Value = value,
            },
            this with
            {
                Value = Fact.Of(task),
            },
            Fact.Field
        );
    }

    internal override IEnumerable<TextRun> Say(Schedule before, Schedule after) =>
        [EditText.Called(after, Task), .. Fact.SaysIn(after.Plan, Value, many: false)];

    internal override IEnumerable<TextRun>? SayOfAll(ImmutableArray<PlanEdit> alike, Schedule after) =>
        alike.All(e => e is SetFact<TFact, TValue> set && Equals(set.Value, Value)) ? Fact.SaysIn(after.Plan, Value, many: true) : null;

    static PlanEdit IEditKind.Sample(EditSampler from) => new SetFact<TFact, TValue>(from.Any, Fact.Sample(from.Random));
}
