using Auxilium.Storage.Access;
using Auxilium.Storage.Notices;
using Auxilium.Storage.Rows;
using Auxilium.Web.Notices;
using Microsoft.Extensions.DependencyInjection;

namespace Auxilium.Web.Tests;

/// <summary>What people are told because of the day it is: once for each date, as they wish, only of what they see.</summary>
public class AlertsTests(DemoApp demo) : IClassFixture<DemoApp>
{
    private const string Plan = """
        {"format":"auxilium-plan/1","project":{"name":"Night market","start":"2027-05-03","coordinator":"imke"},
         "people":[{"id":"imke","name":"Imke Varga"},{"id":"wanda","name":"Wanda Coles"},{"id":"bert","name":"Bert Stolk"}],
         "tasks":[{"id":"a","name":"Order stalls","length":"2d","pinned":{"start":"2027-05-17"},"serves":"m",
                   "assignments":[{"person":"wanda"}],
                   "reminders":[{"days":3,"before":"start"},{"days":0,"before":"finish","people":["bert"]}]},
                  {"id":"m","name":"Site ready","milestone":true,"pinned":{"start":"2027-05-19"}},
                  {"id":"o","name":"Permit granted","milestone":true,"deliveredBy":"Town council","pinned":{"start":"2027-05-21"}}]}
        """;

    private readonly NoticeBook _book = demo.App.Services.GetRequiredService<NoticeBook>();

    [Fact]
    public async Task Reminders_come_so_many_days_before_to_whom_they_are_for_and_once_for_a_date()
    {
        var project = await NewAsync();
        await LookAsync(13);
        Assert.Empty(await ToldAsync("wanda", project, NoticeKind.Reminder));
        await LookAsync(14);
        await LookAsync(15);
        Assert.Equal(["Reminder: Order stalls starts on Mon 17 May."], await ToldAsync("wanda", project, NoticeKind.Reminder));
        Assert.Empty(await ToldAsync("bert", project, NoticeKind.Reminder));
        await LookAsync(18);
        Assert.Equal(["Reminder: Order stalls finishes today."], await ToldAsync("bert", project, NoticeKind.Reminder));
        // Another date is reminded of anew; a task that is done is not.
        await demo.Api.EditAsync(project, """{"type":"pinTask","task":"a","start":"2027-05-24"}""", 1);
        await LookAsync(21);
        Assert.Equal(2, (await ToldAsync("wanda", project, NoticeKind.Reminder)).Count);
        await demo.Api.EditAsync(project, """{"type":"finishTask","task":"a"}""", 2);
        await LookAsync(25);
        Assert.Single(await ToldAsync("bert", project, NoticeKind.Reminder));
    }

    [Fact]
    public async Task A_reminder_may_come_long_before()
    {
        var project = await NewAsync();
        await demo.Api.EditAsync(project, """{"type":"pinTask","task":"o","start":"2027-09-01"}""", 1);
        await demo.Api.EditAsync(
            project,
            """{"type":"setReminders","task":"o","reminders":[{"days":109,"before":"start","people":["bert"]}]}""",
            2
        );
        await LookAsync(14);
        Assert.Empty(await ToldAsync("bert", project, NoticeKind.Reminder));
        await LookAsync(15);
        Assert.Equal(["Reminder: Permit granted is on Wed 1 Sep."], await ToldAsync("bert", project, NoticeKind.Reminder));
    }

    [Fact]
    public async Task A_reminder_that_is_set_on_its_day_comes_at_once()
    {
        var project = await NewAsync();
        await LookAsync(13);
        await demo.Api.EditAsync(
            project,
            """{"type":"setReminders","task":"m","reminders":[{"days":9,"before":"start","people":["bert"]}]}""",
            1
        );
        await LookAsync(13);
        Assert.Equal(["Reminder: Site ready is on Wed 19 May."], await ToldAsync("bert", project, NoticeKind.Reminder));
    }

    [Fact]
    public async Task What_starts_soon_or_is_late_to_start_is_told_to_those_who_wish_it()
    {
        var project = await NewAsync();
        await LookAsync(15);
        Assert.Empty(await ToldAsync("wanda", project, NoticeKind.StartsSoon));
        await _book.WishAsync("wanda", new NoticeWishes { Never = [], StartDays = 3 });
        await LookAsync(14);
        await LookAsync(16);
        await LookAsync(18);
        Assert.Equal(["Order stalls starts on Mon 17 May."], await ToldAsync("wanda", project, NoticeKind.StartsSoon));
        Assert.Equal(
            ["Order stalls is late to start: it was to start on Mon 17 May."],
            await ToldAsync("wanda", project, NoticeKind.LateToStart)
        );
        await _book.WishAsync("wanda", new NoticeWishes());
    }

    [Fact]
    public async Task Coordinators_are_told_of_milestones_ahead_what_others_deliver_and_what_is_late_where_they_wish_so()
    {
        var project = await NewAsync();
        await LookAsync(13);
        await LookAsync(14);
        Assert.Equal(
            [
                "The milestone Site ready is due on Wed 19 May: 1 of 1 left.",
                "Town council is to deliver Permit granted on Fri 21 May: ask whether it is on its way.",
            ],
            await ToldAsync("imke", project, NoticeKind.MilestoneSoon)
        );
        Assert.Empty(await ToldAsync("imke", project, NoticeKind.Overdue));
        await _book.WishAsync("imke", new NoticeWishes { AllMine = true });
        await LookAsync(20);
        Assert.Contains("Order stalls is overdue: it was to finish on Tue 18 May.", await ToldAsync("imke", project, NoticeKind.Overdue));
        await _book.WishAsync("imke", new NoticeWishes());
    }

    [Fact]
    public async Task Drift_beyond_what_one_chose_is_told_once_for_each_finish_and_projects_at_rest_tell_nothing()
    {
        var project = await NewAsync();
        await LookAsync(3);
        await demo.Api.EditAsync(project, """{"type":"takeBaseline","name":"As agreed"}""", 1);
        await demo.Api.EditAsync(project, """{"type":"pinTask","task":"o","start":"2027-05-25"}""", 2);
        await LookAsync(3);
        Assert.Empty(await ToldAsync("imke", project, NoticeKind.Drift));
        await demo.Api.EditAsync(project, """{"type":"pinTask","task":"o","start":"2027-05-28"}""", 3);
        await LookAsync(3);
        await LookAsync(4);
        Assert.Equal(
            ["The finish is Fri 28 May now, 5 working days behind “As agreed”."],
            await ToldAsync("imke", project, NoticeKind.Drift)
        );
        await demo.Api.EditAsync(project, """{"type":"setProjectStatus","status":"onHold"}""", 4);
        await demo.Api.EditAsync(project, """{"type":"pinTask","task":"o","start":"2027-06-11"}""", 5);
        await LookAsync(14);
        Assert.Single(await ToldAsync("imke", project, NoticeKind.Drift));
        Assert.Empty(await ToldAsync("wanda", project, NoticeKind.Reminder));
    }

    [Fact]
    public async Task Who_does_not_see_the_project_is_told_nothing_of_it()
    {
        var project = await NewAsync();
        await LookAsync(13);
        await demo.App.Services.GetRequiredService<ProjectRoles>().GiveAsync(project, "bert", ProjectRole.None);
        await LookAsync(18);
        Assert.Empty(await ToldAsync("bert", project, NoticeKind.Reminder));
    }

    [Fact]
    public async Task The_weekly_mail_comes_on_the_day_that_was_chosen_and_once()
    {
        await NewAsync();
        var weekly = demo.App.Services.GetRequiredService<WeeklyMail>();
        await _book.WishAsync("jonas", new NoticeWishes { WeeklyOn = DayOfWeek.Thursday });
        await weekly.WriteAsync(new DateOnly(2027, 5, 12), default);
        await weekly.WriteAsync(new DateOnly(2027, 5, 13), default);
        await weekly.WriteAsync(new DateOnly(2027, 5, 13), default);
        var mails = (await MailsAsync("jonas@tidewell.example")).Where(m =>
            m.Subject.StartsWith("Your projects", StringComparison.Ordinal)
        );
        var mail = Assert.Single(mails);
        Assert.Equal("Your projects on Thu 13 May", mail.Subject);
        Assert.Contains("Adopt-a-Plank: 35% done", mail.Body, StringComparison.Ordinal);
        Assert.Contains("Overdue (", mail.Body, StringComparison.Ordinal);
        // Nothing of what others coordinate.
        Assert.DoesNotContain("Night market", mail.Body, StringComparison.Ordinal);
        Assert.DoesNotContain("Lantern Regatta", mail.Body, StringComparison.Ordinal);
    }

    private async Task<Guid> NewAsync()
    {
        var project = await demo.Api.CreateAsync(Plan);
        // What a plan has when it is looked at for the first time is news to nobody.
        await LookAsync(1);
        return project;
    }

    /// <summary>As on a day of May 2027.</summary>
    private Task LookAsync(int day) => demo.LookAsync(new DateOnly(2027, 5, day));

    private async Task<IReadOnlyList<string>> ToldAsync(string person, Guid project, NoticeKind kind) =>
        [
            .. (await _book.OfAsync(person, 1_000))
                .Select(n => n.Notice)
                .Where(n => n.ProjectId == project && n.Kind == kind)
                .Select(n => n.Text)
                .Reverse(),
        ];

    private async Task<IReadOnlyList<MailRow>> MailsAsync(string to)
    {
        await using var db = await demo
            .App.Services.GetRequiredService<Microsoft.EntityFrameworkCore.IDbContextFactory<Storage.AuxiliumDb>>()
            .CreateDbContextAsync();
        return [.. db.Mails.Where(m => m.To == to)];
    }
}
